// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import Figures, { since } from './Figures'
import { shareSaid } from './said'

vi.mock('../api/queries', async (original) => ({
  ...(await original<typeof import('../api/queries')>()),
  useMe: () => ({ data: { today: '2026-08-24', date_form: 'dmy', currency: 'USD', unit_system: 'metric', rights: ['keep-firm'] } }),
  useWords: () => ({
    cause: new Map([
      ['rust', { label: 'Rust' }],
      ['red-thread', { label: 'Red thread' }],
    ]),
  }),
}))

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const none = { n: 0, median: 0, quarter: 0, three_quarters: 0, low: 0, high: 0 }
const figures = (more: Partial<Schemas['Figures']>): Schemas['Figures'] => ({
  from: '2025-08-24',
  to: '2026-08-24',
  cases: 3,
  causes: [],
  grasses: [],
  minutes: none,
  confirmed: { of: 0, n: 0, low: 0, high: 1 },
  calibrated: [],
  treatments: { n: 0, mean: 0, low: 0, high: 0 },
  courses: [],
  product: { n: 0, mean: 0, low: 0, high: 0 },
  checks: { of: 0, n: 0, low: 0, high: 1 },
  by_check: [],
  saved: { n: 0, mean: 0, low: 0, high: 0 },
  water: { n: 0, mean: 0, low: 0, high: 0 },
  ...more,
})

it('says a share with how well it is known', () => {
  expect(shareSaid({ of: 7, n: 9, low: 0.45, high: 0.94 })).toBe('7 of 9 (45 to 94 %)')
  expect(shareSaid({ of: 0, n: 0, low: 0, high: 1 })).toBe('none yet')
  expect(since('2026-08-24', 2)).toBe('2024-08-24')
})

it('shows what is known, and says what is not', async () => {
  serves({ 'GET /figures': figures({}), 'GET /figures/lessons': { used: false, cases: 0, least: 20, lessons: [], version: 0 } })
  page(<Figures />)
  await screen.findByText('none yet of the closed cases')
  expect(screen.getByText('no visit with arrival and leaving')).toBeTruthy()
  expect(screen.getByText(/No diagnosis was saved in this span/)).toBeTruthy()
  expect(screen.getByText(/Close cases to see how often/)).toBeTruthy()
})

it('leads from each figure to its cases', async () => {
  const causes = [{ cause: 'rust', label: 'Rust', n: 3, months: [0, 0, 0, 0, 0, 0, 0, 2, 1, 0, 0, 0] }]
  const asked: string[] = []
  serves({
    'GET /figures': figures({
      causes,
      grasses: [{ id: 'tall-fescue', label: 'Tall fescue', n: 3 }],
      confirmed: { of: 1, n: 2, low: 0.1, high: 0.9 },
      calibrated: [{ from: 0.7, to: 0.9, promised: 0.8, of: 1, n: 2, low: 0.1, high: 0.9 }],
      minutes: { n: 4, median: 31, quarter: 20, three_quarters: 40, low: 18, high: 44 },
      courses: [{ id: 'slow', label: '', n: 2 }],
      checks: { of: 2, n: 8, low: 0.05, high: 0.6 },
      by_check: [{ procedure: 'pull', label: 'Pull', minutes: 12, of: 1, n: 4, low: 0, high: 0.7 }],
      saved: { n: 2, mean: 53.2, low: -12, high: 117 },
      water: { n: 1, mean: 1.172, low: 1.172, high: 1.172 },
    }),
    'GET /figures/lessons': { used: false, cases: 2, least: 20, lessons: [], version: 0 },
    'GET /figures/cases': [
      {
        zone_id: 'z1',
        visit_id: 'v1',
        site: '14 Quill Lane',
        zone: 'Back lawn',
        grass: 'tall-fescue',
        cause: 'rust',
        probability: 0.82,
        given_on: '2026-08-20',
        confirmed: 'red-thread',
        treatments: 1,
      },
    ],
  })
  const served = globalThis.fetch
  vi.stubGlobal('fetch', (r: Request) => {
    asked.push(new URL(r.url).search)
    return served(r)
  })
  page(<Figures />)
  await userEvent.click(await screen.findByRole('button', { name: 'Rust in Aug: 2' }))
  const list = await screen.findByRole('region', { name: 'Cases' })
  await waitFor(() =>
    expect(within(list).getByRole('link', { name: '14 Quill Lane, Back lawn' }).getAttribute('href')).toBe('/zones/z1/recovery'),
  )
  expect(within(list).getByText(/Rust 82 %; was red thread/)).toBeTruthy()
  expect(within(list).getByRole('link', { name: 'As CSV' }).getAttribute('href')).toContain('cause=rust&month=8')
  expect(asked.at(-1)).toContain('month=8')
  await userEvent.click(screen.getByRole('button', { name: '1 turned out otherwise' }))
  await waitFor(() => expect(asked.at(-1)).toContain('which=wrong'))
  await userEvent.click(screen.getByRole('button', { name: /Tall fescue/ }))
  await waitFor(() => expect(asked.at(-1)).toContain('grass=tall-fescue'))
  expect(screen.getByText('2 of 8; the rest only confirmed')).toBeTruthy()
  await userEvent.click(screen.getByRole('button', { name: 'Pull made the difference on 1 of 4' }))
  await waitFor(() => expect(asked.at(-1)).toContain('check=pull&decided=yes'))
  await userEvent.click(screen.getByRole('button', { name: '53 USD' }))
  await waitFor(() => expect(asked.at(-1)).toContain('which=saved'))
  expect(screen.getByText('against going by the client’s word; 2 closed, between -12 and 117')).toBeTruthy()
  await userEvent.click(screen.getByRole('button', { name: '2 lawns slow' }))
  await waitFor(() => expect(asked.at(-1)).toContain('course=slow'))
  await userEvent.click(screen.getByRole('button', { name: '31' }))
  await waitFor(() => expect(asked.at(-1)).toContain('which=timed'))
  await userEvent.click(screen.getByRole('button', { name: '117 %' }))
  await waitFor(() => expect(asked.at(-1)).toContain('which=watered'))
  expect(screen.getByText('four weeks before a visit')).toBeTruthy()
  expect(screen.getByText('median of 4, between 18 and 44, half take 20 to 40')).toBeTruthy()
  expect(screen.getByRole('img', { name: /promised 80 per cent, true in 1 of 2/ })).toBeTruthy()
  await userEvent.click(screen.getByRole('button', { name: '3 years' }))
  await waitFor(() => expect(asked.at(-1)).toContain('from=2023-08-24'))
})
