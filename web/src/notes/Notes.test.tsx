// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { keepToken, type Schemas } from '../api/client'
import { queryClient, type Words } from '../api/queries'
import { writes } from '../offline/writes'
import { page, serves } from '../testing'
import { Notes, SeenHere, SeenOnRounds } from './Notes'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const words = { findingLabel: (id: string) => ({ colour: 'Colour', 'pull-test': 'Pull test' })[id] ?? id } as unknown as Words
const note = (more: Partial<Schemas['Note']>): Schemas['Note'] => ({
  id: 'n1',
  zone_id: 'z1',
  kind: 'note',
  finding: '',
  text: '',
  has_sound: false,
  by: 'Tam Whitlock',
  noted_on: '2026-08-20',
  open: false,
  ...more,
})

it('leads from what was seen on a round to its check', async () => {
  serves({ 'GET /zones/z1/notes': [note({ kind: 'pale', finding: 'colour', open: true }), note({ id: 'n2', kind: 'dug', open: false })] })
  const onGo = vi.fn()
  page(<SeenOnRounds zone="z1" form="dmy" words={words} onGo={onGo} />)
  await screen.findByText(/Tam Whitlock on 20 Aug 2026: pale\./)
  expect(screen.queryByText(/dug up/)).toBeNull()
  await userEvent.click(screen.getByRole('button', { name: 'Check: colour' }))
  expect(onGo).toHaveBeenCalledWith('colour')
})

it('notes with one tap what was seen, and does not ask for it twice', async () => {
  const asked = serves({
    'GET /zones/z1/notes': [note({ kind: 'soft', finding: 'underfoot', open: true })],
    'PUT /zones/z1/notes/.*': note({}),
  })
  page(<SeenHere zone="z1" />)
  await screen.findByRole('button', { name: 'soft', pressed: true })
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'soft' }).disabled).toBe(true)
  await userEvent.click(screen.getByRole('button', { name: 'dug' }))
  await waitFor(() =>
    expect(asked.find((a) => a.method === 'PUT')?.body).toMatchObject({ kind: 'dug', noted_at: expect.stringContaining('Z') as string }),
  )
})

it('keeps a typed note with the check that it is about, or without', async () => {
  const asked = serves({ 'GET /zones/z1/notes': [], 'PUT /zones/z1/notes/.*': note({}) })
  page(<Notes visit="v1" zone="z1" about="pull-test" words={words} form="dmy" may />)
  const save = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Save the note' })
  expect(save().disabled).toBe(true)
  await userEvent.type(screen.getByLabelText('New note'), 'Lifts by the gate')
  await userEvent.click(save())
  const puts = () => asked.filter((a) => a.method === 'PUT').map((a) => a.body)
  await waitFor(() => expect(puts()).toHaveLength(1))
  expect(puts()[0]).toMatchObject({ kind: 'note', visit_id: 'v1', text: 'Lifts by the gate', finding: 'pull-test' })
  await waitFor(() => expect(screen.getByLabelText<HTMLTextAreaElement>('New note').value).toBe(''))
  await userEvent.click(screen.getByLabelText(/about pull test/))
  await userEvent.type(screen.getByLabelText('New note'), 'Dog next door')
  await userEvent.click(save())
  await waitFor(() => expect(puts().at(-1)).toMatchObject({ visit_id: 'v1', text: 'Dog next door' }))
  expect(puts().at(-1)).not.toHaveProperty('finding')
})

it('loses nothing of a note that cannot be sent', async () => {
  serves({ 'GET /zones/z1/notes': [], 'PUT /zones/z1/notes/.*': { status: 503, body: { title: 'away', status: 503 } } })
  page(<Notes visit="v1" zone="z1" about="" words={words} form="dmy" may />)
  await userEvent.type(screen.getByLabelText('New note'), 'Dog next door')
  await userEvent.click(screen.getByRole('button', { name: 'Save the note' }))
  await screen.findByText(/away/)
  expect(screen.getByLabelText<HTMLTextAreaElement>('New note').value).toBe('Dog next door')
})

it('keeps a note on the device where there is no connection, and sends it when there is', async () => {
  const me = { csrf: 'x', firm_id: 'firm', person_id: 'tam' }
  keepToken(me)
  queryClient.setQueryData(['me'], me)
  const asked = serves({ 'GET /zones/z1/notes': [] })
  const served = globalThis.fetch
  vi.stubGlobal('fetch', (r: Request) => (r.method === 'PUT' ? Promise.reject(new TypeError('cut')) : served(r)))
  page(<Notes visit="v1" zone="z1" about="" words={words} form="dmy" may />)
  await userEvent.type(screen.getByLabelText('New note'), 'Gate locked')
  await userEvent.click(screen.getByRole('button', { name: 'Save the note' }))
  await screen.findByText('Saved on this device')
  expect(screen.getByText('Gate locked', { exact: false })).toBeTruthy()
  expect(writes.read().waiting).toHaveLength(1)
  const back = serves({ 'GET /zones/z1/notes': [], 'PUT /zones/z1/notes/.*': note({}) })
  await writes.flush()
  await waitFor(() => expect(screen.queryByText('Saved on this device')).toBeNull())
  expect(back.filter((a) => a.method === 'PUT').map((a) => a.body)).toMatchObject([{ text: 'Gate locked' }])
  expect(asked.filter((a) => a.method === 'PUT')).toEqual([])
})

it('says so where there is no microphone', async () => {
  serves({ 'GET /zones/z1/notes': [] })
  page(<Notes visit="v1" zone="z1" about="" words={words} form="dmy" may />)
  await userEvent.click(screen.getByRole('button', { name: 'Speak it' }))
  await screen.findByText(/No microphone can be used here/)
})
