// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { PhotoWanted } from '../core/core'
import { page, serves } from '../testing'
import { Measure } from './Measure'

const core = vi.hoisted(() => ({ measure: vi.fn(), put: vi.fn() }))
vi.mock('../core/core', () => ({ measurePicture: core.measure }))
vi.mock('./box', () => ({ photos: { put: core.put } }))

const seen = (more: object = {}) => ({
  seen: { cover: 0.62, uncertain: 0.03, index: 0.51, faults: [], ...more },
  mask: new Uint8Array(12),
})

beforeEach(() => {
  core.measure.mockReset().mockImplementation(() => Promise.resolve(seen()))
  core.put.mockReset().mockImplementation(() => Promise.resolve())
  URL.createObjectURL = () => 'blob:x'
  URL.revokeObjectURL = () => undefined
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const grid = {
  grid: { step_m: 2, columns: 2, rows: 1, east_m: 0, north_m: 2, plain: false },
  lawn: [0, 2],
  line: [
    { e: 0, n: 0 },
    { e: 4, n: 0 },
    { e: 4, n: 2 },
  ],
  holes: [],
  things: [],
}

function shown(tilt?: number) {
  const onDone = vi.fn()
  serves({ 'GET /zones/z/grid': grid })
  const picture = { width: 4, height: 3, jpeg: new Blob(['x']), takenAt: new Date('2026-08-24T15:00:00Z'), tilt }
  page(<Measure visit="v" zone="z" picture={picture} onDone={onDone} />)
  return { onDone, user: userEvent.setup() }
}
const keepIt = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep it' })
const kept = () => core.put.mock.calls.at(-1)?.[0] as { body: Record<string, unknown>; visit: string }

describe('a picture of cover', () => {
  it('is measured at once by the usual limits, and kept with what the device saw', async () => {
    const { user, onDone } = shown()
    await screen.findByText('Green cover 62 % ± 3')
    expect(core.measure).toHaveBeenCalledWith({ hue_low: 60, hue_high: 120, saturation: 0.1 })
    await user.click(keepIt())
    await waitFor(() => expect(onDone).toHaveBeenCalled())
    expect(kept().body).toMatchObject({
      kind: 'measure',
      about: 'cover',
      spot: 'worst',
      taken_at: '2026-08-24T15:00:00.000Z',
      seen: { cover: 0.62, error: 0.03, index: 0.51 },
    })
  })
  it('is measured anew when a limit is moved', async () => {
    const { user } = shown()
    await screen.findByText(/62 %/)
    fireEvent.change(screen.getByLabelText(/Yellow limit/), { target: { value: '72' } })
    await waitFor(() => expect((core.measure.mock.calls.at(-1)?.[0] as PhotoWanted).hue_low).toBe(72))
    await user.click(screen.getByRole('button', { name: 'Usual limits' }))
    await waitFor(() => expect((core.measure.mock.calls.at(-1)?.[0] as PhotoWanted).hue_low).toBe(60))
  })
  it('that is slanted or badly lit is said to be for show', async () => {
    core.measure.mockImplementation(() => Promise.resolve(seen({ faults: ['tilted', 'uneven'] })))
    shown(30)
    await screen.findByText('Not counted: not from straight above, light and shadow side by side.')
    expect(core.measure).toHaveBeenCalledWith({ hue_low: 60, hue_high: 120, saturation: 0.1, tilt: 30 })
  })
  it('is not kept while its grey card cannot be gone by', async () => {
    core.measure.mockImplementation(() => Promise.resolve(seen({ card: 'what is marked as the grey card is not grey' })))
    shown()
    await screen.findByText('what is marked as the grey card is not grey')
    expect(keepIt().disabled).toBe(true)
  })
  it('that cannot be measured says why', async () => {
    core.measure.mockImplementation(() => Promise.reject(new Error('the core has stopped')))
    shown()
    await screen.findByText('the core has stopped')
    expect(keepIt().disabled).toBe(true)
  })
})

describe('a picture just to show', () => {
  it('is kept without a measurement', async () => {
    const { user } = shown()
    await user.click(screen.getByRole('button', { name: 'Photo only' }))
    await user.click(screen.getByRole('button', { name: 'Good spot' }))
    await user.type(screen.getByLabelText('Note'), 'the gate')
    await user.click(keepIt())
    await waitFor(() => expect(kept().body).toMatchObject({ kind: 'show', spot: 'healthy', note: 'the gate' }))
    expect(kept().body).not.toHaveProperty('seen')
  })
})

describe('its place', () => {
  it('is marked on the map of the lawn and kept with it', async () => {
    const { user } = shown()
    await user.click(await screen.findByText('Mark it on the map'))
    screen.getByRole('application').focus()
    await user.keyboard('{ArrowRight} ')
    expect(screen.getByText('Marked on the map')).toBeTruthy()
    await user.click(keepIt())
    await waitFor(() => expect(kept().body).toMatchObject({ at: { e: 3, n: 1 } }))
  })
})

describe('the width of a patch', () => {
  it('is measured by what lies beside it, and taken over', async () => {
    serves({ 'GET /zones/z/grid': grid })
    const width = vi.fn()
    const picture = { width: 400, height: 300, jpeg: new Blob(['x']), takenAt: new Date(), tilt: undefined }
    page(<Measure visit="v" zone="z" picture={picture} onDone={vi.fn()} onWidth={width} />)
    const user = userEvent.setup()
    await user.click(screen.getByText('How wide is a patch?'))
    const sheet = document.querySelector<HTMLElement>('.photo-sheet')
    if (!sheet) throw new Error('no picture')
    sheet.getBoundingClientRect = () => ({ left: 0, top: 0, width: 400, height: 300 }) as DOMRect
    sheet.setPointerCapture = () => undefined
    const drag = async (tool: string, a: [number, number], b: [number, number]) => {
      await user.click(screen.getByRole('button', { name: new RegExp(tool) }))
      fireEvent.pointerDown(sheet, { clientX: a[0], clientY: a[1] })
      fireEvent.pointerUp(sheet, { clientX: b[0], clientY: b[1] })
    }
    await drag('Drag along it', [10, 10], [50, 10])
    await drag('Drag across the patch', [100, 50], [100, 250])
    await screen.findByText(/Patch 43 cm ± 6/)
    expect(document.querySelectorAll('.scale-marks line')).toHaveLength(2)
    await user.click(screen.getByRole('button', { name: 'Take over as patch size' }))
    expect(width).toHaveBeenCalledWith(42.8)
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Taken over' }).disabled).toBe(true)
    await user.selectOptions(screen.getByRole('combobox', { name: 'Lying beside it' }), 'own')
    await screen.findByText(/its length is missing/)
    await user.type(screen.getByRole('textbox', { name: /Its length/ }), '20')
    await screen.findByText(/Patch 100 cm ± 14/)
  })
})

describe('moss', () => {
  it('is measured once it was pointed out three times, and grass as often', async () => {
    const { user } = shown()
    await user.click(screen.getByRole('button', { name: 'Moss' }))
    expect(screen.getByText(/Point three times at moss/)).toBeTruthy()
    expect(keepIt().disabled).toBe(true)
    const sheet = document.querySelector<HTMLElement>('.photo-sheet')
    if (!sheet) throw new Error('no picture')
    sheet.getBoundingClientRect = () => ({ left: 0, top: 0, width: 100, height: 100 }) as DOMRect
    for (const [tool, x] of [
      ['Point at moss', 10],
      ['Point at grass', 80],
    ] as const) {
      await user.click(screen.getByRole('button', { name: new RegExp(tool) }))
      for (const y of [20, 40, 60]) fireEvent.pointerDown(sheet, { clientX: x, clientY: y })
    }
    await screen.findByText('Moss 62 % ± 3')
    expect(core.measure.mock.calls.at(-1)?.[0]).toMatchObject({
      like: [
        { x: 0.1, y: 0.2 },
        { x: 0.1, y: 0.4 },
        { x: 0.1, y: 0.6 },
      ],
      other: [{ x: 0.8 }, { x: 0.8 }, { x: 0.8 }],
    })
    await user.click(screen.getByRole('button', { name: 'Start over' }))
    expect(screen.getByText(/Point three times at moss/)).toBeTruthy()
  })
})
