// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Cells, PointOnLawn } from './grid'
import { StepGrid } from './StepGrid'

afterEach(cleanup)

// four by three squares, the first of them no lawn
const grid: Schemas['StepGrid'] = {
  grid: { step_m: 1, columns: 4, rows: 3, east_m: 0, north_m: 3, plain: false },
  lawn: [1, 11],
  line: [
    { e: 0, n: 0 },
    { e: 4, n: 0 },
    { e: 4, n: 3 },
    { e: 1, n: 3 },
  ],
  holes: [],
  things: [
    { kind: 'tree', name: 'Oak', line: [{ e: 2, n: 1 }], closed: false, reach_m: 1 },
    {
      kind: 'slope',
      name: '',
      line: [
        { e: 0, n: 3 },
        { e: 0, n: 0 },
      ],
      closed: false,
      reach_m: 0,
    },
  ],
  before: { on: '2025-09-12', cells: [5, 6] },
}

function shown(cells?: Cells, more: { disabled?: boolean; points?: PointOnLawn[] } = {}) {
  const onCells = vi.fn<(c: Cells | null, percent: number) => void>()
  const onPoints = vi.fn<(p: PointOnLawn[]) => void>()
  const page = render(
    <StepGrid
      grid={grid}
      cells={cells}
      points={more.points ?? []}
      pictures={[{ e: 3.2, n: 1.1 }]}
      disabled={more.disabled ?? false}
      onCells={onCells}
      onPoints={onPoints}
    />,
  )
  return { onCells, onPoints, user: userEvent.setup(), map: screen.getByRole('application'), page }
}

const marked = (...clear: number[]): Cells => ({ grid: grid.grid, slight: [], clear, bare: [] })

describe('marking with the keyboard', () => {
  it('begins on the lawn, marks with space and takes off with the same', async () => {
    const { onCells, user, map } = shown()
    map.focus()
    await user.keyboard(' ')
    expect(onCells).toHaveBeenLastCalledWith(marked(1), 9)
    await user.keyboard('{ArrowDown}{ArrowRight} ')
    expect(onCells).toHaveBeenLastCalledWith(marked(1, 6), 18)
    await user.keyboard(' ')
    expect(onCells).toHaveBeenLastCalledWith(marked(1), 9)
    await user.keyboard('{ArrowUp}{ArrowLeft} ')
    expect(onCells).toHaveBeenLastCalledWith(null, 0)
  })
  it('never leaves the grid, and marks nothing beyond the lawn', async () => {
    const { onCells, user, map } = shown()
    map.focus()
    await user.keyboard('{ArrowLeft}{ArrowLeft}{ArrowUp} ')
    expect(onCells).toHaveBeenLastCalledWith(null, 0)
  })
  it('marks another degree over the one that stands', async () => {
    const { onCells, user, map } = shown(marked(1))
    await user.click(screen.getByRole('button', { name: 'Dead or bare' }))
    map.focus()
    await user.keyboard(' ')
    expect(onCells).toHaveBeenLastCalledWith({ grid: grid.grid, slight: [], clear: [], bare: [1] }, 9)
  })
  it('does nothing for whoever may not', async () => {
    const { onCells, user, map } = shown(undefined, { disabled: true })
    map.focus()
    await user.keyboard(' ')
    expect(onCells).not.toHaveBeenCalled()
  })
})

describe('points', () => {
  it('are put where one stands, and taken off by the same', async () => {
    const { onPoints, user, map } = shown()
    await user.click(screen.getByRole('button', { name: 'Mark a core or count' }))
    await user.click(screen.getByRole('button', { name: 'Core, good spot' }))
    map.focus()
    await user.keyboard(' ')
    const core: PointOnLawn = { what: 'core', spot: 'healthy', e: 1.5, n: 2.5 }
    expect(onPoints).toHaveBeenLastCalledWith([core])
    cleanup()
    const again = shown(undefined, { points: [core] })
    await again.user.click(screen.getByRole('button', { name: 'Mark a core or count' }))
    await again.user.click(screen.getByRole('button', { name: 'Core, good spot' }))
    again.map.focus()
    await again.user.keyboard(' ')
    expect(again.onPoints).toHaveBeenLastCalledWith([])
  })
})

describe('what is drawn', () => {
  it('has the share in words for whoever hears it', () => {
    shown(marked(1, 2, 3))
    expect(screen.getByRole('application', { name: /27 per cent damaged/ })).toBeTruthy()
  })
  it('shows what lies on the lawn, with its key, and what was damaged before', () => {
    const { page } = shown(marked(1))
    expect(page.container.querySelectorAll('.map-before')).toHaveLength(2)
    expect(page.container.querySelectorAll('.things [data-kind=tree]').length).toBeGreaterThan(0)
    expect(screen.getByText('Slope')).toBeTruthy()
    expect(screen.getByText('Tree')).toBeTruthy()
    expect(screen.queryByText('Sprinkler')).toBeNull()
    expect(page.container.querySelector('[data-what=picture] text')?.textContent).toBe('P')
  })
})
