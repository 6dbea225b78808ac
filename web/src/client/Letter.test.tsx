// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, render, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import ForClient from './ForClient'
import { Letter } from './Letter'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const zone = (more: Partial<Schemas['ClientZone']>): Schemas['ClientZone'] => ({
  id: 'z1',
  name: 'Back lawn',
  grass: ['Tall fescue'],
  pictures: [],
  done: [],
  booked: [],
  tasks: [],
  ...more,
})
const found: Schemas['ClientFound'] = {
  cause: 'rust',
  family: 'disease',
  label: 'Rust',
  sure: 'likely',
  says: 'Very likely.',
  given_on: '2026-08-20',
  what: 'Orange powder.',
  why: 'Orange powder comes off the leaves and it grows slowly.',
  ends: 'Growth.',
  back: 'In late summer.',
  not: ['Iron chlorosis', 'Nitrogen deficiency'],
  past: false,
}
const course: Schemas['ClientCourse'] = {
  started_on: '2026-08-01',
  target: 0.9,
  cover: 0.62,
  measured_on: '2026-08-20',
  verdict: 'on-course',
  says: 'It is recovering as expected. Green again about 20 Sep 2026.',
  due: false,
  green_on: '2026-09-20',
  expected: [],
  measures: [
    { on: '2026-08-01', cover: 0.4 },
    { on: '2026-08-20', cover: 0.62 },
  ],
}
const letter = (zones: Schemas['ClientZone'][]): Schemas['ClientPage'] => ({
  firm: { name: 'Averley Turf Care', phone: '555-0142', email: '', address: '', website: '', poison_centre: '555-0199' },
  client: 'Orla Brandt',
  site: '14 Quill Lane',
  address: '',
  made_on: '2026-08-24',
  date_form: 'dmy',
  unit_system: 'metric',
  zones,
})
const shown = (...zones: Schemas['ClientZone'][]) => render(<Letter page={letter(zones)} picture={(id) => `/p/${id}`} />)

it('tells what it is, how sure, what it is not, and what ends it', () => {
  shown(zone({ found }))
  expect(screen.getByRole('heading', { name: 'Rust' })).toBeTruthy()
  expect(screen.getByText('Very likely.')).toBeTruthy()
  expect(screen.getByText('How we know:').parentElement?.textContent).toContain('comes off the leaves and')
  expect(screen.getByText('It is not iron chlorosis, nor nitrogen deficiency.')).toBeTruthy()
  expect(screen.getByText('What ends it:').parentElement?.textContent).toContain('Growth.')
  expect(screen.getByText('Will it come back?').parentElement?.textContent).toContain('In late summer.')
})

it('gives no reasons where none were kept', () => {
  shown(zone({ found: { ...found, why: '' } }))
  expect(screen.queryByText('How we know:')).toBeNull()
})

it('tells of an old finding as history', () => {
  shown(zone({ found: { ...found, past: true, says: 'Found on 20 Aug 2026.' } }))
  expect(screen.queryByRole('heading', { name: 'Rust' })).toBeNull()
  expect(screen.getByText(/Found on 20 Aug 2026\. Orange powder\./)).toBeTruthy()
  expect(screen.queryByText('What ends it:')).toBeNull()
})

it('parts what to do from what not to do, each with its days', () => {
  shown(
    zone({
      tasks: [
        {
          kind: 'water',
          not: false,
          from: '2026-08-24',
          to: '2026-09-14',
          when: 'Watering, until 14 Sep 2026',
          text: 'Keep the seed damp.',
        },
        { kind: 'safety', not: true, from: '2026-09-01', when: 'Safety, for now', text: 'Keep off it.' },
      ],
    }),
  )
  const dos = screen.getByRole('region', { name: 'Please do' })
  expect(within(dos).getByText('Watering, until 14 Sep 2026')).toBeTruthy()
  const donts = screen.getByRole('region', { name: 'Please do not' })
  expect(within(donts).getByText('Keep off it.')).toBeTruthy()
  expect(within(donts).getByRole('listitem').dataset.now).toBe('false')
})

it('says how green it is in words as well', () => {
  shown(zone({ course }))
  expect(screen.getByRole('img', { name: /62 per cent green on 20 Aug 2026; it began at 40, the aim is 90/ })).toBeTruthy()
  expect(screen.getByText(/It is recovering as expected. Green again about 20 Sep 2026/)).toBeTruthy()
})

it('says when nobody is to go on a lawn', () => {
  shown(zone({ closed: { wet: false, says: 'People and pets keep off until 25 Aug 2026.' } }))
  expect(screen.getByRole('status').textContent).toBe('People and pets keep off until 25 Aug 2026.')
})

it('names the lawns of which there is no news, in one line', () => {
  shown(zone({ found }), zone({ id: 'z2', name: 'Front lawn', visit_on: '2026-09-01' }), zone({ id: 'z3', name: 'Verge' }))
  expect(screen.getByText('Front lawn, Verge: nothing to report. We look at them on 1 Sep 2026.')).toBeTruthy()
  expect(screen.queryByRole('region', { name: 'Verge' })).toBeNull()
})

function behind(answer: object) {
  const asked: string[] = []
  serves({ 'GET /for/abc': answer })
  const served = globalThis.fetch
  vi.stubGlobal('fetch', (r: Request) => {
    asked.push(new URL(r.url).search)
    return served(r)
  })
  page(<ForClient />, '/for/abc', '/for/:token')
  return asked
}

it('opens by its link alone, in either units, and as a file', async () => {
  const asked = behind(letter([zone({ pictures: [{ id: 'p1', taken_on: '2026-08-01', cover: 0.4 }] })]))
  await screen.findByRole('heading', { name: 'Your lawn at 14 Quill Lane' })
  expect(screen.getByRole('img', { name: 'Back lawn on 1 Aug 2026' }).getAttribute('src')).toBe('/api/v1/for/abc/pictures/p1')
  expect(screen.getByRole('link', { name: 'Save as PDF' }).getAttribute('href')).toBe('/api/v1/for/abc/pdf?units=metric')
  await userEvent.click(screen.getByRole('button', { name: 'Show °F and inches' }))
  await waitFor(() => expect(asked).toEqual(['', '?units=us']))
})

it('says so where the link is closed', async () => {
  behind({ status: 404, body: { title: 'Not Found', detail: 'this page is closed', status: 404 } })
  await screen.findByRole('heading', { name: 'This page is closed' })
})
