import { useState } from 'react'
import type { Schemas } from '../api/client'
import { show, type UnitSystem } from '../format'
import { Things } from '../ground/Drawing'
import { drawn, path, type Frame, type OnSite } from '../ground/grid'
import { scaleBar } from '../ground/steps'

interface Props {
  entries: Schemas['MapEntry'][]
  zones: Schemas['Zone'][]
  units: UnitSystem
  taps: OnSite[]
  /** what a tap puts down; left out while nothing is being put down */
  onTap: ((at: OnSite) => void) | undefined
}

/** The smallest frame about all that is mapped, with room around it. */
function frameAbout(entries: Schemas['MapEntry'][]): Frame {
  const all = entries.flatMap((e) => e.line.map((p) => ({ ...p, r: e.kind === 'tree' ? e.reach_m : 0 })))
  const pad = 3
  const east = Math.min(...all.map((p) => p.e - p.r), all.length ? Infinity : -20) - pad
  const west = Math.max(...all.map((p) => p.e + p.r), all.length ? -Infinity : 20) + pad
  const north = Math.max(...all.map((p) => p.n + p.r), all.length ? -Infinity : 14) + pad
  const south = Math.min(...all.map((p) => p.n - p.r), all.length ? Infinity : -14) - pad
  return { step_m: 1, columns: Math.ceil(west - east), rows: Math.ceil(north - south), east_m: east, north_m: north, plain: false }
}

/** All of a site from above, north at the top. While something is being put down a tap, or the arrow keys and the space bar, say where. */
export function MapSheet({ entries, zones, units, taps, onTap }: Props) {
  const frame = frameAbout(entries)
  const [at, setAt] = useState<[number, number]>([frame.columns / 2, frame.rows / 2])
  const thin = Math.max(frame.columns, frame.rows) / 320
  const bar = scaleBar(frame.columns, units)
  const lawns = entries.filter((e) => e.kind === 'zone')
  const things = entries.flatMap((e) => (e.kind === 'zone' ? [] : [{ ...e, kind: e.kind }]))
  const put = ([x, y]: [number, number]) => onTap?.({ e: frame.east_m + x, n: frame.north_m - y })
  const tapping = onTap ? ' Arrow keys move, space puts a point down.' : ''
  const said = `Map of the site: ${lawns.length} lawns, ${things.length} things.${tapping}`
  return (
    <svg
      className="site-sheet"
      viewBox={`0 0 ${frame.columns} ${frame.rows}`}
      role={onTap ? 'application' : 'img'}
      tabIndex={onTap ? 0 : undefined}
      aria-label={said}
      data-putting={onTap !== undefined}
      onPointerDown={(e) => {
        const m = e.currentTarget.getScreenCTM()?.inverse()
        if (!m || !onTap) return
        const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m)
        setAt([p.x, p.y])
        put([p.x, p.y])
      }}
      onKeyDown={(e) => {
        const by: Record<string, [number, number]> = { ArrowLeft: [-0.5, 0], ArrowRight: [0.5, 0], ArrowUp: [0, -0.5], ArrowDown: [0, 0.5] }
        const d = by[e.key]
        if (!onTap) return
        if (d) setAt([at[0] + d[0], at[1] + d[1]])
        else if (e.key === ' ') put(at)
        else return
        e.preventDefault()
        e.stopPropagation()
      }}
    >
      {lawns.map((e) => {
        const d = [e.line, ...e.holes.map((h) => h.line)].map((r) => path(frame, r, true)).join('')
        return (
          <g key={e.id} data-lawn={e.zone_id}>
            <path className="map-lawn" d={d} fillRule="evenodd" strokeWidth={thin * 1.4} />
          </g>
        )
      })}
      <Things frame={frame} things={things} thin={thin} />
      {lawns.map((e) => {
        const zone = zones.find((z) => z.id === e.zone_id)
        const [x, y] = middle(frame, e.line)
        return (
          <text key={e.id} className="map-lawn-name" x={x} y={y} fontSize={thin * 11} strokeWidth={thin * 2.5} textAnchor="middle">
            {zone?.name}
            <tspan x={x} dy={thin * 12}>
              {show(e.area_m2 ?? 0, 'm2', units)}
            </tspan>
          </text>
        )
      })}
      {taps.length > 0 && <path className="tapped" d={path(frame, taps, false)} strokeWidth={thin * 2} />}
      {taps.map((p, i) => {
        const [x, y] = drawn(frame, p)
        return <circle key={i} className="tapped-at" cx={x} cy={y} r={thin * 4} />
      })}
      {onTap && <path className="tap-cross" d={`M${at[0] - 1} ${at[1]}h2M${at[0]} ${at[1] - 1}v2`} strokeWidth={thin} />}
      <g className="scale-bar" strokeWidth={thin * 1.6} fontSize={thin * 10}>
        <path d={`M1 ${frame.rows - 1.2}v.5h${bar.m}v-.5`} />
        <text x={1 + bar.m + thin * 4} y={frame.rows - 0.6}>
          {bar.label}
        </text>
        <path d={`M${frame.columns - 1.2} 2.6V.9M${frame.columns - 1.7} 1.6l.5-.8.5.8`} />
        <text x={frame.columns - 1.2} y={2.7 + thin * 10} textAnchor="middle">
          N
        </text>
      </g>
    </svg>
  )
}

function middle(frame: Frame, line: OnSite[]): [number, number] {
  const at = line.map((p) => drawn(frame, p))
  const mean = (k: 0 | 1) => at.reduce((s, p) => s + p[k], 0) / Math.max(at.length, 1)
  return [mean(0), mean(1)]
}
