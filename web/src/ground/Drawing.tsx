import type { Schemas } from '../api/client'
import { drawn, path, type Frame } from './grid'

type Thing = Schemas['ThingOnLawn']

/** What each kind of thing is called. */
export const kinds: Record<Thing['kind'], string> = {
  'hard-edge': 'Drive, path or wall',
  tree: 'Tree',
  sprinkler: 'Sprinkler',
  slope: 'Slope',
  buried: 'Buried',
}

/** What lies on and along a lawn, drawn over it; thin is the width of a thin line in m, clip the lawn to which throws are kept. */
export function Things({ frame, things, thin, clip }: { frame: Frame; things: Thing[]; thin: number; clip?: string }) {
  return (
    <g className="things" strokeWidth={thin}>
      {things.map((t, i) => (
        <ThingMark key={i} frame={frame} thing={t} thin={thin} clip={clip} />
      ))}
    </g>
  )
}

function ThingMark({ frame, thing: t, thin, clip }: { frame: Frame; thing: Thing; thin: number; clip: string | undefined }) {
  const at = (p = { e: 0, n: 0 }) => drawn(frame, p)
  const [x, y] = at(t.line[0])
  switch (t.kind) {
    case 'tree':
      return (
        <g data-kind={t.kind}>
          <circle className="crown" cx={x} cy={y} r={t.reach_m} strokeDasharray={`${thin * 3} ${thin * 2}`} />
          <circle className="trunk" cx={x} cy={y} r={thin * 2.2} />
        </g>
      )
    case 'sprinkler':
      return (
        <g data-kind={t.kind}>
          <circle className="throw" cx={x} cy={y} r={t.reach_m} clipPath={clip} />
          <path className="head" d={`M${x} ${y - thin * 4}l${thin * 3.4} ${thin * 6}h${-thin * 6.8}z`} />
        </g>
      )
    case 'slope': {
      const [u, v] = at(t.line.at(-1))
      const turn = (Math.atan2(v - y, u - x) * 180) / Math.PI
      return (
        <g data-kind={t.kind}>
          <path className="fall" d={path(frame, t.line, false)} strokeDasharray={`${thin * 6} ${thin * 3}`} />
          <path
            className="foot"
            d={`M${-thin * 7} ${-thin * 4}L0 0L${-thin * 7} ${thin * 4}`}
            transform={`translate(${u} ${v}) rotate(${turn})`}
          />
        </g>
      )
    }
    case 'buried':
      return t.line.length === 1 ? (
        <path
          data-kind={t.kind}
          className="buried"
          d={`M${x - thin * 3} ${y - thin * 3}l${thin * 6} ${thin * 6}m0 ${-thin * 6}l${-thin * 6} ${thin * 6}`}
        />
      ) : (
        <path
          data-kind={t.kind}
          className="buried"
          strokeWidth={thin * 3}
          d={path(frame, t.line, t.closed)}
          strokeDasharray={`${thin} ${thin * 2.5}`}
        />
      )
    default:
      return <path data-kind={t.kind} className="hard" d={path(frame, t.line, t.closed)} strokeWidth={t.closed ? thin : thin * 3.5} />
  }
}

/** Which signs are on the map and what they stand for. */
export function Key({ things }: { things: Thing[] }) {
  const seen = [...new Set(things.map((t) => t.kind))]
  const frame: Frame = { step_m: 1, columns: 1, rows: 1, east_m: 0, north_m: 0, plain: false }
  const sample = (kind: Thing['kind']): Thing => ({
    kind,
    name: '',
    closed: false,
    reach_m: 6,
    line:
      kind === 'tree' || kind === 'sprinkler'
        ? [{ e: 11, n: -7 }]
        : [
            { e: 2, n: -7 },
            { e: 20, n: -7 },
          ],
  })
  if (seen.length === 0) return null
  return (
    <ul className="map-key">
      {seen.map((k) => (
        <li key={k}>
          <svg viewBox="0 0 22 14" width="30" height="19" aria-hidden="true">
            <Things frame={frame} things={[sample(k)]} thin={0.9} />
          </svg>
          {kinds[k]}
        </li>
      ))}
    </ul>
  )
}

/** The lawn itself: its outline, or the whole of a grid without one. */
export function Lawn({ grid, squares, clip, thin }: { grid: Schemas['StepGrid']; squares: string; clip: string; thin: number }) {
  const frame = grid.grid
  const d = grid.line.length
    ? [grid.line, ...grid.holes.map((h) => h.line)].map((r) => path(frame, r, true)).join('')
    : `M0 0H${frame.columns * frame.step_m}V${frame.rows * frame.step_m}H0Z`
  return (
    <>
      <clipPath id={clip}>
        <path d={d} clipRule="evenodd" />
      </clipPath>
      <path className="map-lawn" d={d} fillRule="evenodd" strokeWidth={thin * 1.5} />
      <path d={d} fillRule="evenodd" fill={squares} />
    </>
  )
}
