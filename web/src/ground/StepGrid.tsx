import { useId, useMemo, useState } from 'react'
import type { Schemas } from '../api/client'
import type { PointOnLawn as Point } from './grid'
import { Key, Lawn, Things } from './Drawing'
import { stepped, under } from './frame'
import { cellsOf, damageOn, degrees, drawn, lawnOf, middleOf, share, type Cells, type Degree, type Frame, type OnSite } from './grid'
import { useStrokes } from './useStrokes'

/** Kinds of points that are put on the map. */
const pointKinds = [
  ['core', 'worst', 'Core, bad spot'],
  ['core', 'healthy', 'Core, good spot'],
  ['count', 'worst', 'Count'],
  ['sample', 'worst', 'Sample'],
] as const

type Tool = { degree: Degree } | { point: (typeof pointKinds)[number] }

interface Props {
  grid: Schemas['StepGrid']
  cells: Cells | undefined
  points: Point[]
  /** where pictures were taken */
  pictures: OnSite[]
  disabled: boolean
  onCells: (cells: Cells | null, percent: number) => void
  onPoints: (points: Point[]) => void
}

/**
 * The lawn from above on a grid of steps. Damage is marked by degree, by tap, by dragging, or with the arrow keys and the space bar;
 * the same
 * degree again takes it off. Cores, counts and samples are put on it as points.
 */
export function StepGrid({ grid, cells, points, pictures, disabled, onCells, onPoints }: Props) {
  const id = useId()
  const frame = grid.grid
  const lawn = useMemo(() => lawnOf(grid), [grid])
  const kept = useMemo(() => damageOn(frame, cells), [frame, cells])
  const [tool, setTool] = useState<Tool>({ degree: 2 })
  const [at, setAt] = useState(() => Math.max(0, lawn.indexOf(true)))
  const strokes = useStrokes(frame, lawn, kept, (next) => onCells(cellsOf(frame, next), share(lawn, next)))
  const width = frame.columns * frame.step_m
  const height = frame.rows * frame.step_m
  const thin = Math.max(width, height) / 260
  // what lies along the lawn is seen, too
  const rim = grid.grid.plain ? thin * 2 : Math.max(1.2, thin * 5)

  const point = (cell: number, [what, spot]: (typeof pointKinds)[number]) => {
    if (!lawn[cell]) return
    const { e, n } = middleOf(frame, cell)
    const here = (p: Point) => p.what === what && p.spot === spot && Math.hypot(p.e - e, p.n - n) < frame.step_m * 0.7
    onPoints(points.some(here) ? points.filter((p) => !here(p)) : [...points, { what, spot, e, n }])
  }
  const mark = (cell: number) => ('point' in tool ? point(cell, tool.point) : strokes.mark(cell, tool.degree))
  const press = (e: React.PointerEvent<SVGSVGElement>) => {
    const c = under(frame, e)
    if (disabled || c === undefined) return
    if ('point' in tool) return point(c, tool.point)
    e.currentTarget.setPointerCapture(e.pointerId)
    strokes.begin(c, tool.degree)
  }
  const move = (e: React.PointerEvent<SVGSVGElement>) => {
    const c = under(frame, e)
    if (c !== undefined) strokes.go(c)
  }
  const key = (e: React.KeyboardEvent) => {
    const next = stepped(frame, at, e.key)
    if (next !== undefined) setAt(next)
    else if (e.key === ' ' && !disabled) mark(at)
    else return
    e.preventDefault()
    e.stopPropagation()
  }

  return (
    <div className="lawn-map">
      <svg
        viewBox={`${-rim} ${-rim} ${width + 2 * rim} ${height + 2 * rim}`}
        tabIndex={0}
        role="application"
        aria-label={`Map of the lawn, ${share(lawn, strokes.damage)} per cent damaged. Arrow keys move, space marks.`}
        data-step={frame.step_m}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={strokes.end}
        onPointerCancel={strokes.cancel}
        onKeyDown={key}
      >
        <defs>
          <pattern id={`${id}squares`} width={frame.step_m} height={frame.step_m} patternUnits="userSpaceOnUse">
            <path className="map-rule" d={`M${frame.step_m} 0H0V${frame.step_m}`} strokeWidth={thin * 0.5} />
          </pattern>
          <pattern id={`${id}hatch`} width={thin * 4} height={thin * 4} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path className="map-hatch" d={`M0 0V${thin * 4}`} strokeWidth={thin * 2.6} />
          </pattern>
        </defs>
        <Lawn grid={grid} clip={`${id}lawn`} squares={`url(#${id}squares)`} thin={thin} />
        <Squares frame={frame} before={grid.before?.cells ?? []} damage={strokes.damage} hatch={`url(#${id}hatch)`} />
        <Things frame={frame} things={grid.things} thin={thin} clip={`url(#${id}lawn)`} />
        <Points frame={frame} points={points} pictures={pictures} thin={thin} />
        <rect
          className="map-at"
          x={(at % frame.columns) * frame.step_m}
          y={Math.floor(at / frame.columns) * frame.step_m}
          width={frame.step_m}
          height={frame.step_m}
          strokeWidth={thin * 2}
        />
      </svg>
      <Tools tool={tool} disabled={disabled} onTool={setTool} />
      <Key things={grid.things} />
    </div>
  )
}

/** What was damaged before, as dots, and what is damaged now, by degree. */
function Squares({ frame, before, damage, hatch }: { frame: Frame; before: number[]; damage: Map<number, Degree>; hatch: string }) {
  const x = (c: number) => (c % frame.columns) * frame.step_m
  const y = (c: number) => Math.floor(c / frame.columns) * frame.step_m
  const half = frame.step_m / 2
  return (
    <>
      {before.map((c) => (
        <circle key={`before${c}`} className="map-before" cx={x(c) + half} cy={y(c) + half} r={frame.step_m * 0.13} />
      ))}
      {[...damage].map(([c, degree]) => (
        <rect
          key={c}
          className="map-cell"
          data-degree={degree}
          fill={degree === 1 ? hatch : undefined}
          x={x(c)}
          y={y(c)}
          width={frame.step_m}
          height={frame.step_m}
        />
      ))}
    </>
  )
}

const letters = { core: 'B', count: 'N', sample: 'S' } as const

/** Cores, counts, samples and pictures, each with its letter; G is a core at the good spot. */
function Points({ frame, points, pictures, thin }: { frame: Frame; points: Point[]; pictures: OnSite[]; thin: number }) {
  const all = [
    ...points.map((p) => ({ ...p, letter: p.spot === 'healthy' ? 'G' : letters[p.what] })),
    ...pictures.map((p) => ({ ...p, what: 'picture', spot: '', letter: 'P' })),
  ]
  return all.map((p, i) => {
    const [x, y] = drawn(frame, p)
    return (
      <g key={i} className="map-point" data-what={p.what} data-spot={p.spot} transform={`translate(${x} ${y}) scale(${thin})`}>
        <circle r="6.5" />
        <text textAnchor="middle" dy="3.6">
          {p.letter}
        </text>
      </g>
    )
  })
}

function Tools({ tool, disabled, onTool }: { tool: Tool; disabled: boolean; onTool: (t: Tool) => void }) {
  const [more, setMore] = useState(false)
  return (
    <div className="map-tools" role="group" aria-label="What a tap marks">
      {degrees.map(([degree, name, label]) => (
        <button
          key={degree}
          type="button"
          data-degree-tool={name}
          aria-pressed={'degree' in tool && tool.degree === degree}
          disabled={disabled}
          onClick={() => onTool({ degree })}
        >
          <svg viewBox="0 0 16 16" width="18" height="18" aria-hidden="true">
            {degree === 1 ? (
              <path className="map-hatch" d="M-2 6L6 -2M-2 14L14 -2M2 18L18 2M10 18L18 10" strokeWidth="3" />
            ) : (
              <rect className="map-cell" data-degree={degree} width="16" height="16" />
            )}
          </svg>
          {label}
        </button>
      ))}
      {(more || 'point' in tool) &&
        pointKinds.map((k) => (
          <button
            key={k[2]}
            type="button"
            data-point-tool={`${k[0]}-${k[1]}`}
            aria-pressed={'point' in tool && tool.point[2] === k[2]}
            disabled={disabled}
            onClick={() => onTool({ point: k })}
          >
            {k[2]}
          </button>
        ))}
      <button type="button" className="quiet" aria-expanded={more} onClick={() => setMore(!more)} data-more-tools>
        {more ? 'Hide these' : 'Mark a core or count'}
      </button>
    </div>
  )
}
