// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import Tell, { picked } from '../client/Tell'
import { page, serves } from '../testing'
import { becauseSaid } from './words'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const speed: Schemas['AskedOf'] = {
  finding: 'onset-speed',
  text: 'How fast did it come?',
  many: false,
  choices: [
    { id: 'overnight', text: 'Overnight' },
    { id: 'days', text: 'Within days' },
  ],
}
const colour: Schemas['AskedOf'] = {
  finding: 'colour',
  text: 'What colours?',
  many: true,
  choices: [
    { id: 'brown', text: 'Brown' },
    { id: 'yellow', text: 'Yellow' },
  ],
}
const asking: Schemas['Asking'] = {
  firm: { name: 'Averley', phone: '', email: '', address: '', website: '', poison_centre: '' },
  site: '3 Sallow Court',
  date_form: 'dmy',
  zones: [
    { id: 'a', name: 'Front' },
    { id: 'b', name: 'Back' },
  ],
  questions: [speed, colour],
  pictures: 6,
  visit_on: '2026-08-28',
  told: [],
  full: false,
}
const tell = () => page(<Tell />, '/for/abc/tell', '/for/:token/tell')

describe('what a client picks', () => {
  it('is one answer or many, and can be taken back', () => {
    expect(picked({ 'onset-speed': ['days'] }, speed, 'overnight')).toEqual({ 'onset-speed': ['overnight'] })
    expect(picked({ 'onset-speed': ['days'] }, speed, 'days')).toEqual({})
    expect(picked({ colour: ['brown'] }, colour, 'yellow')).toEqual({ colour: ['brown', 'yellow'] })
    expect(picked({ colour: ['brown', 'yellow'] }, colour, 'brown')).toEqual({ colour: ['yellow'] })
  })
  it('goes out for the lawn that it is of, and says what to leave until then', async () => {
    const asked = serves({
      'GET /for/abc/questions': asking,
      'POST /for/abc/calls': { id: 'x', until: ['Put nothing on it.'] },
    })
    tell()
    const send = await screen.findByRole('button', { name: 'Send' })
    expect(screen.getByText(/We are coming on 28 Aug 2026/)).toBeTruthy()
    expect((send as HTMLButtonElement).disabled).toBe(true)
    await userEvent.click(screen.getByRole('button', { name: 'Overnight' }))
    expect(screen.getByText('Say which lawn it is.')).toBeTruthy()
    await userEvent.click(screen.getByRole('button', { name: 'Back' }))
    await userEvent.click(send)
    expect(await screen.findByText('Put nothing on it.')).toBeTruthy()
    expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({
      zone_id: 'b',
      note: '',
      answers: [{ finding: 'onset-speed', choices: ['overnight'] }],
    })
  })
  it('stays where the server refuses it', async () => {
    serves({ 'GET /for/abc/questions': asking, 'POST /for/abc/calls': { status: 500, body: { title: 'Broken', status: 500 } } })
    tell()
    await userEvent.click(await screen.findByRole('button', { name: 'Within days' }))
    await userEvent.click(screen.getByRole('button', { name: 'Front' }))
    await userEvent.click(screen.getByRole('button', { name: 'Send' }))
    expect(await screen.findByText('Nothing is lost: press Send again.')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'Within days' }).getAttribute('aria-pressed')).toBe('true')
  })
  it('is full for today, or closed', async () => {
    serves({ 'GET /for/abc/questions': { ...asking, full: true } })
    tell()
    expect(await screen.findByText(/Please call us instead/)).toBeTruthy()
    cleanup()
    serves({})
    tell()
    expect(await screen.findByText('This page is closed')).toBeTruthy()
  })
})

describe('why it is urgent', () => {
  const name = (id: string) => ({ armyworms: 'Armyworms', 'pythium-blight': 'Pythium blight' })[id] ?? id
  it.each([
    [[], ''],
    [[{ cause: 'armyworms', p: 0.4, doubles: 2 }], 'Could be armyworms: the damage can double in 2 days'],
    [
      [
        { cause: 'pythium-blight', p: 0.4, doubles: 1 },
        { cause: 'armyworms', p: 0.2, doubles: 2 },
      ],
      'Could be pythium blight, or armyworms: the damage can double in a day',
    ],
  ] as [Schemas['FastCause'][], string][])('%#', (list, want) => expect(becauseSaid(list, name)).toBe(want))
})
