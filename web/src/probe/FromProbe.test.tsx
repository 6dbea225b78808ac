// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { byBluetooth, type Bluetooth } from './devices'
import { FromProbe } from './FromProbe'

/** A thermometer of the standard kind, that the test holds in its hand. */
class Thermometer extends EventTarget {
  value: DataView | undefined
  gone = false
  device = Object.assign(new EventTarget(), {
    gatt: {
      connect: () => Promise.resolve({ getPrimaryService: () => Promise.resolve({ getCharacteristic: () => Promise.resolve(this) }) }),
      disconnect: () => (this.gone = true),
    },
  })
  startNotifications = () => Promise.resolve(this)
  says(hundredths: number) {
    this.value = new DataView(new ArrayBuffer(2))
    this.value.setInt16(0, hundredths, true)
    this.dispatchEvent(new Event('characteristicvaluechanged'))
  }
}

let real: Thermometer
let near: boolean
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance', 'Date'] })
  real = new Thermometer()
  near = true
  const bluetooth: Bluetooth = { requestDevice: () => (near ? Promise.resolve(real.device) : Promise.reject(new Error('none'))) }
  Object.assign(navigator, { bluetooth })
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
  Object.assign(navigator, { bluetooth: undefined })
})

const passes = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms))
const press = async (name: RegExp) => {
  fireEvent.click(screen.getByRole('button', { name }))
  await passes(0)
}
function shown(quantity: 'C' | '%' = 'C', demo = true) {
  const onTake = vi.fn()
  const of = (spot: string) => <FromProbe quantity={quantity} spot={spot} units="metric" demo={demo} disabled={false} onTake={onTake} />
  render(of('a'))
  return onTake
}

it('offers a simulated probe in the demo only, and a thermometer only for a temperature', () => {
  shown('%', false)
  expect(screen.queryByRole('button')).toBeNull()
  cleanup()
  shown('%')
  expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual(['Read the simulated probe'])
  cleanup()
  shown('C', false)
  expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual(['Read the bluetooth thermometer'])
})

it('watches a simulated probe settle and takes its value over', async () => {
  const onTake = shown()
  await press(/simulated/)
  expect(screen.getByRole('group', { name: 'Simulated probe' })).toBeTruthy()
  expect(screen.getByRole('status').textContent).toBe('Waiting for the first reading.')
  await passes(5000)
  expect(screen.getByRole('status').textContent).toMatch(/^Still moving/)
  expect(screen.getByRole('button', { name: /Take it as it is/ })).toBeTruthy()
  await passes(90_000)
  expect(screen.getByRole('status').textContent).toMatch(/^Steady at \d/)
  await press(/^Take/)
  const [[value]] = onTake.mock.calls as [[number]]
  expect(value).toBeGreaterThan(14)
  expect(value).toBeLessThan(28)
  expect(screen.queryByRole('group')).toBeNull()
  await passes(1000) // it reads no more
  expect(onTake).toHaveBeenCalledTimes(1)
})

it('reads a thermometer of the standard kind, and says so when it goes away', async () => {
  const onTake = shown('C', false)
  await press(/bluetooth/)
  await act(() => Promise.resolve(real.says(-0x8000))) // it knows no value yet
  expect(screen.getByRole('status').textContent).toBe('Waiting for the first reading.')
  await act(() => Promise.resolve(real.says(-125)))
  expect(screen.getByText('-1.2 °C', { selector: '.probe-value' })).toBeTruthy()
  await act(() => Promise.resolve(real.says(2150)))
  await press(/Take it as it is/)
  expect(onTake).toHaveBeenCalledWith(10.1)
  expect(real.gone).toBe(true)
  await press(/bluetooth/)
  await act(() => Promise.resolve(real.device.dispatchEvent(new Event('gattserverdisconnected'))))
  expect(screen.getByRole('alert').textContent).toMatch(/the connection is gone/)
  near = false
  await press(/bluetooth/)
  expect(screen.getByRole('alert').textContent).toMatch(/none was found/)
})

it('asks for the sensors of the standard service', async () => {
  const asked: unknown[] = []
  await byBluetooth({
    requestDevice: (o) => {
      asked.push(o)
      return Promise.resolve(real.device)
    },
  }).open(
    () => undefined,
    () => undefined,
  )
  expect(asked).toEqual([{ filters: [{ services: [0x181a] }] }])
})
