// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { OnSite } from '../ground/grid'
import { page, serves } from '../testing'
import { MapForm, type Wanted } from './MapForm'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})
beforeEach(() => localStorage.clear())

const lawn: Wanted = { kind: 'zone', zone: 'z1', name: 'Back lawn', how: 'step' }
const tree: Wanted = { kind: 'tree', zone: '', name: '', how: 'tap' }

function shown(wanted: Wanted, taps: OnSite[] = [], units: 'metric' | 'us' = 'metric') {
  const onDone = vi.fn()
  page(<MapForm site="s1" wanted={wanted} units={units} taps={taps} onWant={() => undefined} onTaps={() => undefined} onDone={onDone} />)
  return { onDone, user: userEvent.setup(), save: () => screen.getByRole<HTMLButtonElement>('button', { name: 'Save' }) }
}

describe('an outline that is stepped off', () => {
  it('goes out in metres by the pace, once every side is there', async () => {
    const asked = serves({ 'PUT /sites/s1/map/.*': {} })
    const { onDone, user, save } = shown(lawn)
    expect(save().disabled).toBe(true)
    await user.clear(screen.getByLabelText('One pace, m'))
    await user.type(screen.getByLabelText('One pace, m'), '0.8')
    await user.type(screen.getByLabelText('Length'), '25')
    expect(save().disabled).toBe(true)
    await user.type(screen.getByLabelText('Width'), '10')
    await user.click(save())
    await waitFor(() => expect(onDone).toHaveBeenCalled())
    expect(asked.find((a) => a.method === 'PUT')?.body).toEqual({
      kind: 'zone',
      name: '',
      version: 0,
      zone_id: 'z1',
      use_area: true,
      stepped: { shape: 'rectangle', sides_m: [20, 8], taped: false },
    })
    expect(localStorage.getItem('hodos-pace')).toBe('0.8')
  })
  it('by tape is read in the unit of the reader, and asks for no pace', async () => {
    const asked = serves({ 'PUT /sites/s1/map/.*': {} })
    const { user, save, onDone } = shown(lawn, [], 'us')
    await user.click(screen.getByLabelText(/Measured by tape/))
    expect(screen.queryByLabelText(/One pace/)).toBeNull()
    await user.selectOptions(screen.getByLabelText('Shape'), 'circle')
    await user.type(screen.getByLabelText('Width across'), '10')
    await user.click(save())
    await waitFor(() => expect(onDone).toHaveBeenCalled())
    const body = asked.find((a) => a.method === 'PUT')?.body as { stepped: { sides_m: number[] } }
    expect(body.stepped.sides_m[0]).toBeCloseTo(3.048)
  })
  it('keeps what was typed when the server refuses it, and says why', async () => {
    serves({
      'PUT /sites/s1/map/.*': {
        status: 422,
        body: {
          title: 'x',
          status: 422,
          errors: [{ location: 'body.stepped.sides_m', message: 'one side is longer than the other two together' }],
        },
      },
    })
    const { user, save, onDone } = shown(lawn)
    await user.type(screen.getByLabelText('Length'), '25')
    await user.type(screen.getByLabelText('Width'), '10')
    await user.click(save())
    await screen.findByText(/longer than the other two/)
    expect(screen.getByLabelText<HTMLInputElement>('Length').value).toBe('25')
    expect(onDone).not.toHaveBeenCalled()
  })
})

describe('a tree', () => {
  it('needs its place and the reach of its crown', async () => {
    const asked = serves({ 'PUT /sites/s1/map/.*': {} })
    shown(tree)
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true)
    cleanup()
    const { user, save, onDone } = shown(tree, [{ e: 3, n: -2 }])
    expect(save().disabled).toBe(true)
    await user.type(screen.getByLabelText('Radius of the crown'), '4')
    await user.type(screen.getByLabelText('Name, if it has one'), 'Oak')
    await user.click(save())
    await waitFor(() => expect(onDone).toHaveBeenCalled())
    expect(asked.find((a) => a.method === 'PUT')?.body).toEqual({
      kind: 'tree',
      name: 'Oak',
      version: 0,
      reach_m: 4,
      points: [{ e: 3, n: -2 }],
      closed: false,
    })
  })
})

describe('walking', () => {
  it('says what to do when the device may not tell where it is', async () => {
    serves({})
    Object.defineProperty(navigator, 'geolocation', {
      configurable: true,
      value: {
        watchPosition: (_: unknown, wrong: (e: unknown) => void) => {
          wrong({ code: 1, PERMISSION_DENIED: 1 })
          return 1
        },
        clearWatch: () => undefined,
      },
    })
    const { user } = shown({ ...lawn, how: 'walk' })
    await user.click(screen.getByRole('button', { name: 'Start' }))
    await screen.findByText(/or pace the lawn off/)
    expect(screen.getByRole('button', { name: 'Start' })).toBeTruthy()
  })
  it('goes on through a moment without a position', async () => {
    serves({})
    let tell: (p: unknown) => void = () => undefined
    let wrong: (e: unknown) => void = () => undefined
    Object.defineProperty(navigator, 'geolocation', {
      configurable: true,
      value: {
        watchPosition: (t: typeof tell, w: typeof wrong) => {
          tell = t
          wrong = w
          return 1
        },
        clearWatch: () => undefined,
      },
    })
    const { user, save } = shown({ ...lawn, how: 'walk' })
    await user.click(screen.getByRole('button', { name: 'Start' }))
    const at = (latitude: number) => tell({ coords: { longitude: -78, latitude, accuracy: 4 } })
    at(37)
    wrong({ code: 2, PERMISSION_DENIED: 1 })
    await screen.findByText(/Step out under the open sky/)
    at(37.0001)
    at(37.0002)
    await screen.findByText(/3 points, good to 4 m/)
    await waitFor(() => expect(save().disabled).toBe(false)) // the form hears of the line after it is drawn
  })
})
