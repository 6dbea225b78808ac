import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { between, cellAt, cellsFrom, cellsOf, damageOn, drawn, lawnOf, path, share, type Frame } from './grid'

const frame: Frame = { step_m: 1, columns: 4, rows: 3, east_m: 10, north_m: 20, plain: false }
const plain: Frame = { step_m: 2, columns: 12, rows: 8, east_m: 0, north_m: 0, plain: true }

describe('the lawn on the grid', () => {
  it('is told by runs', () => {
    const lawn = lawnOf({ grid: frame, lawn: [1, 2, 4, 8], line: [], holes: [], things: [] })
    expect(lawn.map(Number).join('')).toBe('011011111111')
  })
  it('counts its own squares alone', () => {
    const lawn = lawnOf({ grid: frame, lawn: [0, 6], line: [], holes: [], things: [] })
    expect(
      share(
        lawn,
        new Map([
          [0, 2],
          [7, 3],
          [5, 1],
        ]),
      ),
    ).toBe(33)
    expect(share(lawn, new Map())).toBe(0)
  })
  it('never calls a marked square none', () => {
    const big = lawnOf({ grid: { ...frame, columns: 40, rows: 30 }, lawn: [0, 1200], line: [], holes: [], things: [] })
    expect(share(big, new Map([[3, 1]]))).toBe(1)
  })
})

describe('marks', () => {
  it('are kept by degree, in order, and read again', () => {
    const damage = new Map<number, 1 | 2 | 3>([
      [7, 3],
      [2, 1],
      [1, 1],
    ])
    const kept = cellsOf(frame, damage)
    expect(kept).toEqual({ grid: frame, slight: [1, 2], clear: [], bare: [7] })
    expect(damageOn(frame, cellsFrom(kept))).toEqual(damage)
    expect(cellsOf(frame, new Map())).toBeNull()
  })
  it('of the time before outlines are a list, stretched over the lawn', () => {
    const old = cellsFrom([0, 12])
    expect(old?.clear).toEqual([0, 12])
    expect([...damageOn(plain, old).keys()]).toEqual([0, 12])
    const fine: Frame = { step_m: 1, columns: 24, rows: 16, east_m: 0, north_m: 0, plain: false }
    expect([...damageOn(fine, old).keys()]).toEqual([0, 1, 24, 25, 48, 49, 72, 73])
  })
  it('stay in their place when the outline is taken anew', () => {
    const moved: Frame = { ...frame, east_m: 9, north_m: 21, columns: 6, rows: 5 }
    expect([...damageOn(moved, { grid: frame, slight: [], clear: [5], bare: [] }).keys()]).toEqual([14])
  })
  it('are nothing where an answer is something else', () => {
    expect(cellsFrom(null)).toBeUndefined()
    expect(cellsFrom(true)).toBeUndefined()
    expect(damageOn(frame, undefined).size).toBe(0)
  })
})

// core/pattern holds the server to the same table
const table = JSON.parse(readFileSync('../core/pattern/testdata/moved.json', 'utf8')) as {
  what: string
  from: Frame
  to: Frame
  clear: number[]
  there: number[]
}[]
it.each(table)('marks move as the core moves them: $what', ({ from, to, clear, there }) => {
  expect([...damageOn(to, { grid: from, slight: [], clear, bare: [] }).keys()]).toEqual(there)
})

describe('where a finger is', () => {
  it('is a square, or beyond', () => {
    expect(cellAt(frame, [3.9, 2.1])).toBe(11)
    expect(cellAt(frame, [4.1, 1])).toBeUndefined()
    expect(cellAt(frame, [-0.1, 1])).toBeUndefined()
  })
  it('leaves no square out on its way', () => {
    expect(between(frame, 0, 11)).toEqual([0, 5, 6, 11])
    expect(between(frame, 5, 5)).toEqual([5])
    expect(between(frame, 11, 8)).toEqual([11, 10, 9, 8])
  })
})

it('draws north at the top', () => {
  expect(drawn(frame, { e: 12, n: 19 })).toEqual([2, 1])
  expect(
    path(
      frame,
      [
        { e: 10, n: 20 },
        { e: 11, n: 18 },
      ],
      true,
    ),
  ).toBe('M0.00 0.00L1.00 2.00Z')
  expect(path(frame, [], true)).toBe('')
})
