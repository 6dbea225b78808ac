// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import { Count, type Held, type Tally } from './Count'

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const tools = [
  { id: 'square', label: 'a square of 30 cm', cm2: 900 },
  { id: 'cutter', label: 'a cup cutter of 108 mm', cm2: 92 },
]
const protocol = (finding: string, kind: Schemas['Protocol']['kind'], more: object = {}) => ({
  finding,
  kind,
  tools: ['square', 'cutter'],
  places: 4,
  seconds: 0,
  where: 'At the margin of the damage.',
  ...more,
})
const protocols = {
  protocols: [
    protocol('grubs-per-m2', 'pieces'),
    protocol('crowns-alive-percent', 'share', { tools: [] }),
    protocol('water-drop-seconds', 'drop', { tools: [] }),
  ],
  tools,
}
const limit: Schemas['CountLimit'] = {
  cause: 'white-grubs',
  finding: 'grubs-per-m2',
  per_m2: 65,
  stand: 'usual',
  feeds: true,
  feeds_until: '2026-10-05',
}
const held: Held = { limit, units: 'metric', dates: 'dmy', today: '2026-08-24' }

function shown(finding: string, more: { tally?: Tally; held?: Held; weighed?: object } = {}) {
  const asked = serves({
    'GET /counts': protocols,
    [`POST /counts/${finding}`]: more.weighed ?? { value: 50, state: 'begun', settled: false },
  })
  const onTally = vi.fn()
  page(
    <Count
      finding={finding}
      keep="v-z-x"
      tally={more.tally}
      disabled={false}
      held={more.held ?? held}
      onOpen={() => undefined}
      onTally={onTally}
    />,
  )
  return { asked, onTally, user: userEvent.setup() }
}

describe('counting in places', () => {
  it('goes from square to square by pressing, and ends with a value', async () => {
    const { onTally, user } = shown('grubs-per-m2')
    await user.click(await screen.findByRole('button', { name: 'Count it in places' }))
    expect(screen.getByText('At the margin of the damage.')).toBeTruthy()
    const more = () => screen.getByRole('button', { name: /One more in square/ })
    for (let i = 0; i < 5; i++) await user.click(more())
    await user.click(screen.getByRole('button', { name: 'One less in square 1' }))
    await user.click(screen.getByRole('button', { name: 'Next square' }))
    for (let i = 0; i < 2; i++) await user.click(more())
    await user.click(screen.getByRole('button', { name: 'Done: 2 squares' }))
    expect(onTally).toHaveBeenCalledWith(
      {
        tool: 'square',
        places: [
          { got: 4, of: 900 },
          { got: 2, of: 900 },
        ],
      },
      33.3,
    )
  })
  it('with another tool holds all places against its own area', async () => {
    const { onTally, user } = shown('grubs-per-m2')
    await user.click(await screen.findByRole('button', { name: 'Count it in places' }))
    await user.click(screen.getByRole('button', { name: /One more/ }))
    await user.selectOptions(screen.getByLabelText('Counted with'), 'cutter')
    await user.click(screen.getByRole('button', { name: 'Done: 1 square' }))
    expect(onTally).toHaveBeenCalledWith({ tool: 'cutter', places: [{ got: 1, of: 92 }] }, 108.7)
  })
  it('outlives the page that it was begun on', async () => {
    const { user } = shown('grubs-per-m2')
    await user.click(await screen.findByRole('button', { name: 'Count it in places' }))
    await user.click(screen.getByRole('button', { name: /One more/ }))
    cleanup()
    shown('grubs-per-m2')
    const more = await screen.findByRole('button', { name: 'One more in square 1' })
    expect(more.textContent).toContain('1')
  })
  it('says how sure it is, against the limit of this stand, and how long they feed', async () => {
    const { asked } = shown('grubs-per-m2', {
      tally: {
        tool: 'square',
        places: [
          { got: 9, of: 900 },
          { got: 7, of: 900 },
        ],
      },
      weighed: { value: 88.9, low: 50, high: 140, over: 0.93, state: 'over', settled: true },
    })
    await screen.findByText('93 % sure that it is at the damaging count or over. Enough is counted.')
    expect(screen.getByText('89 per m²')).toBeTruthy()
    expect(screen.getByText(/likely 50 to 140/)).toBeTruthy()
    expect(screen.getByText(/Damaging here from 65 per m²: on a stand like most/)).toBeTruthy()
    expect(screen.getByText(/until about 5 Oct 2026: 6 weeks left/)).toBeTruthy()
    expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({ limit: 65 })
  })
  it('asks for another square only as far as it turns the decision', async () => {
    shown('grubs-per-m2', {
      tally: { tool: 'square', places: [{ got: 6, of: 900 }] },
      weighed: { value: 66, over: 0.5, state: 'more', turns: 0.31, settled: false },
    })
    await screen.findByText('Cut one more square: in 31 of 100 cases it turns the decision.')
  })
  it('is told per square foot where the firm counts so', async () => {
    shown('grubs-per-m2', {
      tally: { tool: 'square', places: [{ got: 6, of: 900 }] },
      held: { ...held, units: 'us' },
      weighed: { value: 66.7, state: 'begun', settled: false },
    })
    await screen.findByText(/6\.2 per ft²/)
  })
  it('can be left for a typed figure, and keeps nothing then', async () => {
    const { user } = shown('grubs-per-m2')
    await user.click(await screen.findByRole('button', { name: 'Count it in places' }))
    await user.click(screen.getByRole('button', { name: /One more/ }))
    await user.click(screen.getByRole('button', { name: 'Type the figure instead' }))
    expect(screen.getByRole('button', { name: 'Count it in places' })).toBeTruthy()
    expect(localStorage.getItem('hodos-count-v-z-x')).toBeNull()
  })
})

describe('crowns', () => {
  it('are counted alive and dead', async () => {
    const { onTally, user } = shown('crowns-alive-percent', { held: { ...held, limit: undefined } })
    await user.click(await screen.findByRole('button', { name: 'Count crowns' }))
    for (let i = 0; i < 3; i++) await user.click(screen.getByRole('button', { name: 'One more alive' }))
    await user.click(screen.getByRole('button', { name: 'One more dead' }))
    await user.click(screen.getByRole('button', { name: 'Done: 4 crowns' }))
    expect(onTally).toHaveBeenCalledWith({ places: [{ got: 3, of: 4 }] }, 75)
  })
})

describe('a drop of water', () => {
  it('is timed at each depth, and the longest counts', async () => {
    const { onTally, user } = shown('water-drop-seconds', { held: { ...held, limit: undefined } })
    await user.click(await screen.findByRole('button', { name: 'Time it' }))
    const start = Date.now()
    const clock = vi.spyOn(Date, 'now')
    const press = async (at: number, name: RegExp, i: number) => {
      clock.mockReturnValue(start + at * 1000)
      const b = screen.getAllByRole('button', { name })[i]
      if (!b) throw new Error('no watch')
      await user.click(b)
    }
    await press(0, /Drop is on/, 0)
    await press(8, /stop|Gone|0:0/i, 0)
    clock.mockRestore()
    await waitFor(() => expect(screen.getByText('8 s')).toBeTruthy())
    await user.click(screen.getByRole('button', { name: 'Done: the longest of 1' }))
    expect(onTally).toHaveBeenCalledWith({ places: [{ got: 8, of: 10 }] }, 8)
  })
})
