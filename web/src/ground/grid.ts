import type { Schemas } from '../api/client'

export type Cells = Schemas['DamagedCells']
export type Frame = Schemas['GridFrame']
export type Degree = 1 | 2 | 3
type Point = readonly [number, number]
export type OnSite = Schemas['OnSite']

/** Where on a lawn something was pulled, counted or taken. */
export interface PointOnLawn extends OnSite {
  what: 'core' | 'count' | 'sample'
  spot: 'worst' | 'healthy'
}

/** The degrees of damage, lightest first. */
export const degrees = [
  [1, 'slight', 'Thin or pale'],
  [2, 'clear', 'Damaged'],
  [3, 'bare', 'Dead or bare'],
] as const

/** Which squares of a grid are lawn, from the runs that the server tells. */
export function lawnOf(grid: Schemas['StepGrid']): boolean[] {
  const on = new Array<boolean>(grid.grid.columns * grid.grid.rows).fill(false)
  for (let i = 0; i + 1 < grid.lawn.length; i += 2) on.fill(true, grid.lawn[i], (grid.lawn[i] ?? 0) + (grid.lawn[i + 1] ?? 0))
  return on
}

/** The degree of damage of each damaged square, on a grid: marks of another grid are laid over by the middles of its squares. */
export function damageOn(frame: Frame, cells: Cells | undefined): Map<number, Degree> {
  const out = new Map<number, Degree>()
  if (!cells) return out
  const at = new Map<number, Degree>()
  for (const [degree, list] of degrees) for (const c of cells[list]) at.set(c, degree)
  const from = cells.grid
  if (sameFrame(from, frame)) return at
  for (let i = 0; i < frame.columns * frame.rows; i++) {
    const x = i % frame.columns
    const y = Math.floor(i / frame.columns)
    // without an outline there is no place: the marks are stretched over the whole
    const stretched = from.plain !== frame.plain
    const u = stretched
      ? Math.floor(((x + 0.5) * from.columns) / frame.columns)
      : Math.floor((frame.east_m + (x + 0.5) * frame.step_m - from.east_m) / from.step_m)
    const v = stretched
      ? Math.floor(((y + 0.5) * from.rows) / frame.rows)
      : Math.floor((from.north_m - frame.north_m + (y + 0.5) * frame.step_m) / from.step_m)
    const degree = u >= 0 && v >= 0 && u < from.columns && v < from.rows ? at.get(v * from.columns + u) : undefined
    if (degree) out.set(i, degree)
  }
  return out
}

const sameFrame = (a: Frame, b: Frame): boolean =>
  a.columns === b.columns &&
  a.rows === b.rows &&
  a.plain === b.plain &&
  (a.plain || (a.step_m === b.step_m && a.east_m === b.east_m && a.north_m === b.north_m))

/** What is kept of marked squares; nothing where none is marked. */
export function cellsOf(frame: Frame, damage: Map<number, Degree>): Cells | null {
  if (damage.size === 0) return null
  const of = (degree: Degree) => [...damage].flatMap(([c, d]) => (d === degree ? [c] : [])).sort((a, b) => a - b)
  return { grid: frame, slight: of(1), clear: of(2), bare: of(3) }
}

/** Reads what stands as an answer: as it is kept now, or as the list of squares that was kept before zones had outlines. */
export function cellsFrom(value: unknown): Cells | undefined {
  if (Array.isArray(value)) {
    const list = value.filter((x): x is number => typeof x === 'number')
    return { grid: { step_m: 1, columns: 12, rows: 8, east_m: 0, north_m: 0, plain: true }, slight: [], clear: list, bare: [] }
  }
  return typeof value === 'object' && value !== null && 'grid' in value ? (value as Cells) : undefined
}

/** Share of the lawn that is marked, whole per cent; a single marked square is never none. */
export function share(lawn: boolean[], damage: Map<number, Degree>): number {
  const all = lawn.filter(Boolean).length
  const marked = [...damage.keys()].filter((c) => lawn[c]).length
  return marked === 0 || all === 0 ? 0 : Math.max(1, Math.round((100 * marked) / all))
}

/** The middle of a square, from the site. */
export const middleOf = (frame: Frame, cell: number): OnSite => ({
  e: frame.east_m + ((cell % frame.columns) + 0.5) * frame.step_m,
  n: frame.north_m - (Math.floor(cell / frame.columns) + 0.5) * frame.step_m,
})

/** The square under a point of the grid, m from its north-west corner; undefined beyond it. */
export function cellAt(frame: Frame, [x, y]: Point): number | undefined {
  const column = Math.floor(x / frame.step_m)
  const row = Math.floor(y / frame.step_m)
  return column >= 0 && row >= 0 && column < frame.columns && row < frame.rows ? row * frame.columns + column : undefined
}

/** The squares on the way from one to another, both included: a finger that moves fast skips none. */
export function between(frame: Frame, from: number, to: number): number[] {
  const x0 = from % frame.columns
  const y0 = Math.floor(from / frame.columns)
  const dx = (to % frame.columns) - x0
  const dy = Math.floor(to / frame.columns) - y0
  const n = Math.max(Math.abs(dx), Math.abs(dy))
  return Array.from(
    { length: n + 1 },
    (_, i) => Math.round(y0 + (dy * i) / Math.max(n, 1)) * frame.columns + Math.round(x0 + (dx * i) / Math.max(n, 1)),
  )
}

/** Where a point that lies so far from the site is drawn: m from the north-west corner of the grid, downwards. */
export const drawn = (frame: Frame, at: OnSite): [number, number] => [at.e - frame.east_m, frame.north_m - at.n]

/** A line or a ring as a path. */
export function path(frame: Frame, line: readonly OnSite[], closed: boolean): string {
  const points = line.map((p) => {
    const [x, y] = drawn(frame, p)
    return `${x.toFixed(2)} ${y.toFixed(2)}`
  })
  return points.length ? `M${points.join('L')}${closed ? 'Z' : ''}` : ''
}
