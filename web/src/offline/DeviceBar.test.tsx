// @vitest-environment happy-dom
import { act, cleanup, render, screen } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { askToKeep } from './device'
import { DeviceBar } from './DeviceBar'

class Cell extends EventTarget {
  charging = false
  level = 0.4
}
let cell: Cell
let room: { quota: number; usage: number }
const stays = { persisted: false, asked: 0 }
const MB = 1024 * 1024

beforeEach(() => {
  cell = new Cell()
  room = { quota: 1000 * MB, usage: 10 * MB }
  Object.assign(stays, { persisted: false, asked: 0 })
  Object.assign(navigator, {
    getBattery: () => Promise.resolve(cell),
    storage: {
      estimate: () => Promise.resolve(room),
      persisted: () => Promise.resolve(stays.persisted),
      persist: () => Promise.resolve(((stays.asked += 1), true)),
    },
  })
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

const settles = () => act(() => new Promise((r) => setTimeout(r, 5)))

it('says nothing while the device has enough of both', async () => {
  render(<DeviceBar />)
  await settles()
  expect(screen.queryByRole('status')).toBeNull()
})

it('says how much charge is left, until it is being charged', async () => {
  render(<DeviceBar />)
  await settles()
  cell.level = 0.12
  await act(() => Promise.resolve(cell.dispatchEvent(new Event('levelchange'))))
  await screen.findByText('Battery at 12 %. Every answer is saved as you tap it.')
  cell.charging = true
  await act(() => Promise.resolve(cell.dispatchEvent(new Event('chargingchange'))))
  await settles()
  expect(screen.queryByRole('status')).toBeNull()
})

it('says that the device is nearly full', async () => {
  room = { quota: 1000 * MB, usage: 971 * MB }
  render(<DeviceBar />)
  await screen.findByText(/nearly full/)
})

it('looks at the room on a device that does not tell its charge', async () => {
  Object.assign(navigator, { getBattery: () => Promise.reject(new Error('not allowed')) })
  room = { quota: 1000 * MB, usage: 999 * MB }
  render(<DeviceBar />)
  await screen.findByText(/nearly full/)
})

it('asks once that what lies here may stay', async () => {
  await askToKeep()
  stays.persisted = true
  await askToKeep()
  expect(stays.asked).toBe(1)
})
