// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { OnSite } from './grid'
import { PlaceOnLawn } from './PlaceOnLawn'

afterEach(cleanup)

const grid: Schemas['StepGrid'] = {
  grid: { step_m: 2, columns: 3, rows: 2, east_m: 10, north_m: 4, plain: false },
  lawn: [1, 5],
  line: [
    { e: 10, n: 0 },
    { e: 16, n: 0 },
    { e: 16, n: 4 },
    { e: 12, n: 4 },
  ],
  holes: [],
  things: [],
}

async function pressed(keys: string, at?: OnSite) {
  const onAt = vi.fn()
  render(<PlaceOnLawn grid={grid} at={at} onAt={onAt} />)
  screen.getByRole('application').focus()
  await userEvent.keyboard(keys)
  return onAt
}

it('marks the middle of the square that one stands on', async () => {
  expect(await pressed(' ')).toHaveBeenLastCalledWith({ e: 13, n: 3 })
  cleanup()
  expect(await pressed('{ArrowDown}{ArrowRight} ')).toHaveBeenLastCalledWith({ e: 15, n: 1 })
})

it('takes the mark back by the same', async () => {
  expect(await pressed(' ', { e: 13, n: 3 })).toHaveBeenLastCalledWith(undefined)
})

it('marks nothing beyond the lawn, and says whether a place is marked', async () => {
  expect(await pressed('{ArrowLeft}{ArrowLeft} ')).not.toHaveBeenCalled()
  cleanup()
  render(<PlaceOnLawn grid={grid} at={{ e: 13, n: 3 }} onAt={() => undefined} />)
  expect(screen.getByRole('application', { name: /a place is marked/ })).toBeTruthy()
})
