// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import CallPage from './CallPage'
import { Calls } from './Calls'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const me = {
  date_form: 'dmy',
  rights: ['see', 'book-visits'],
  today: '2026-08-24',
  currency: 'USD',
  unit_system: 'metric',
} as unknown as Schemas['Me']
const vocabulary = {
  findings: [{ id: 'grubs-per-m2', label: 'Grubs counted', values: [] }],
  weather_findings: [],
  causes: [{ id: 'armyworms', label: 'Armyworms', family: 'insect' }],
  actions: [],
  procedures: [],
  stations: [],
  species: [],
}
const call: Schemas['Call'] = {
  id: 'c',
  told_on: '2026-08-24',
  told_at: '2026-08-24T10:00:00Z',
  site_id: 's',
  site_name: '3 Sallow Court',
  zone_id: 'z',
  zone_name: 'Front lawn',
  client_name: 'Piet Marlow',
  phone: '555-0102',
  note: 'Gone overnight',
  said: [{ finding: 'onset-speed', asked: 'How quickly did it come on?', said: ['Overnight'] }],
  pictures: 2,
  within: 'today',
  per_day: 154.4,
  because: [{ cause: 'armyworms', p: 0.6, doubles: 2 }],
  late: false,
  aside: false,
}
const detail = (change: Partial<Schemas['Call']> = {}): Schemas['CallDetail'] => ({
  call: { ...call, ...change },
  likely: [{ cause: 'armyworms', p: 0.63 }],
  open: [{ finding: 'grubs-per-m2', procedure: 'grub-square' }],
})
const open = () => page(<CallPage />, '/calls/c', '/calls/:call')

describe('a call', () => {
  it('says how soon and why, what it may be, what only a visit can settle, and that nothing is treated from it', async () => {
    serves({ 'GET /me': me, 'GET /vocabulary': vocabulary, 'GET /calls/c': detail() })
    open()
    expect((await screen.findByText('Today or tomorrow.')).parentElement?.textContent).toBe(
      'Today or tomorrow. Could be armyworms: the damage can double in 2 days. Each day of waiting could cost about 154 USD.',
    )
    expect(screen.getByText('63 %')).toBeTruthy()
    expect(screen.getByText('grubs counted')).toBeTruthy()
    expect(screen.getByText(/Nothing is treated from a picture alone/)).toBeTruthy()
    expect(screen.getByText('Overnight')).toBeTruthy()
    await userEvent.click(screen.getByRole('button', { name: 'Picture 2' }))
    expect(screen.getByAltText('Picture 2 of 2, by the client')).toBeTruthy()
  })
  it('is booked for today where it cannot wait, with its own words as the reason', async () => {
    const asked = serves({
      'GET /me': me,
      'GET /vocabulary': vocabulary,
      'GET /calls/c': detail(),
      'POST /visits': {},
      'PUT /calls/c/visit': call,
    })
    open()
    await userEvent.click(await screen.findByRole('button', { name: 'Book the visit' }))
    await waitFor(() => expect(asked.some((a) => a.method === 'PUT')).toBe(true))
    const visit = asked.find((a) => a.method === 'POST')?.body as Schemas['Visit']
    expect(visit).toMatchObject({ site_id: 's', kind: 'diagnosis', due_on: '2026-08-24', reason: 'Gone overnight' })
    expect(asked.find((a) => a.method === 'PUT')?.body).toEqual({ visit_id: visit.id })
  })
  it('with a visit that comes late offers an earlier one; without one it can be put aside', async () => {
    const asked = serves({
      'GET /me': me,
      'GET /vocabulary': vocabulary,
      'GET /calls/c': detail({ visit_id: 'v', visit_on: '2026-08-28', late: true }),
    })
    open()
    expect(await screen.findByText('That is later than it should be.')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'Book an earlier visit' })).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'No visit needed' })).toBeNull()
    cleanup()
    const again = serves({
      'GET /me': me,
      'GET /vocabulary': vocabulary,
      'GET /calls/c': detail({ pictures: 0 }),
      'POST /calls/c/aside': { ...call, aside: true },
    })
    open()
    expect(await screen.findByText('The client sent no pictures.')).toBeTruthy()
    await userEvent.click(screen.getByRole('button', { name: 'No visit needed' }))
    await waitFor(() => expect(again.some((a) => a.path === '/calls/c/aside')).toBe(true))
    expect(asked.some((a) => a.method === 'POST')).toBe(false)
  })
  it('is only to be read for whoever may not book', async () => {
    serves({ 'GET /me': { ...me, rights: ['see'] }, 'GET /vocabulary': vocabulary, 'GET /calls/c': detail() })
    open()
    expect(await screen.findByText('Today or tomorrow.')).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Book the visit' })).toBeNull()
    expect(screen.queryByRole('button', { name: 'No visit needed' })).toBeNull()
  })
})

describe('the calls of the day', () => {
  it('stand with how soon, where, why and whether somebody comes', async () => {
    const next = { ...call, id: 'd', within: 'next-tour', because: [], pictures: 0, visit_id: 'v', visit_on: '2026-08-26' }
    serves({ 'GET /vocabulary': vocabulary, 'GET /me': me, 'GET /calls': [call, next] })
    page(<Calls me={me} />)
    const list = within(await screen.findByRole('region', { name: 'From clients' })).getAllByRole('link')
    expect(list[0]?.textContent).toContain('Today or tomorrow: 3 Sallow Court, Front lawnCould be armyworms')
    expect(list[0]?.textContent).toContain('no visit is booked')
    expect(list[1]?.textContent).toContain('Next round: 3 Sallow Court, Front lawnGone overnight')
    expect(list[1]?.textContent).toContain('a visit is booked: Wed 26 Aug 2026')
  })
  it('take no room where there are none', async () => {
    const asked = serves({ 'GET /vocabulary': vocabulary, 'GET /me': me, 'GET /calls': [] })
    page(<Calls me={me} />)
    await waitFor(() => expect(asked.some((a) => a.path === '/calls')).toBe(true))
    expect(screen.queryByRole('region')).toBeNull()
  })
})
