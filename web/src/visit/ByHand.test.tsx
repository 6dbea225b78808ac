// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { CoreStrip, Feel, HourOfReading } from './ByHand'

afterEach(cleanup)

const rows: Schemas['VFeel'][] = [
  { ball: true, ribbon_mm: 25, feel: '', texture: 'clay-loam' },
  { ball: true, ribbon_mm: 5, feel: 'gritty', texture: 'sandy-loam' },
  { ball: false, ribbon_mm: 0, feel: '', texture: 'sand' },
]

it('asks for the feel of a soil step by step, and only for what is open', async () => {
  const onTake = vi.fn()
  const user = userEvent.setup()
  render(<Feel rows={rows} label={(t) => t.replace('-', ' ')} disabled={false} onTake={onTake} />)
  await user.click(screen.getByRole('button', { name: 'By feel, step by step' }))
  await user.click(screen.getByRole('button', { name: 'It holds' }))
  await user.click(screen.getByRole('button', { name: 'Up to 25 mm (1 in)' }))
  await user.click(screen.getByRole('button', { name: 'Grit' }))
  await user.click(screen.getByRole('button', { name: 'Take sandy loam' }))
  expect(onTake).toHaveBeenCalledWith('sandy-loam')
  await user.click(screen.getByRole('button', { name: 'By feel, step by step' }))
  await user.click(screen.getByRole('button', { name: 'It falls apart' }))
  expect(screen.getByRole('button', { name: 'Take sand' })).toBeTruthy()
})

it('tells a core with its marks, in the units of whoever reads', () => {
  render(<CoreStrip label="Root depth" value={40} units="metric" disabled={false} onAnswer={() => undefined} />)
  expect(screen.getByRole('img', { name: 'Core, marked at 75 mm and 100 mm; root depth 40 mm' })).toBeTruthy()
  cleanup()
  render(<CoreStrip label="Root depth" value={undefined} units="us" disabled={false} onAnswer={() => undefined} />)
  expect(screen.getByRole('img', { name: 'Core, marked at 3 in and 3.9 in' })).toBeTruthy()
})

it('has the hour of a reading corrected', () => {
  const onAnswer = vi.fn()
  render(<HourOfReading value={9.5} disabled={false} onAnswer={onAnswer} />)
  const field = screen.getByLabelText<HTMLInputElement>('Hour of the reading')
  expect(field.value).toBe('09:30')
  fireEvent.change(field, { target: { value: '15:15' } })
  expect(onAnswer).toHaveBeenCalledWith(15.25)
})
