// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import Messages, { toTell } from './Messages'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const draft: Schemas['Draft'] = {
  key: 'hot irrigated',
  kind: 'hot',
  from: '2026-08-26',
  to: '2026-08-29',
  for: 'Lawns watered',
  subject: 'Heat is coming',
  text: 'It will be hot.',
  recipients: [
    { client_id: 'a', name: 'Orla', email: 'orla@x.example', sites: 'Quill' },
    { client_id: 'b', name: 'Piet', email: '', sites: 'Sallow' },
    { client_id: 'c', name: 'Juno', email: 'juno@x.example', sites: 'Bracken', told_on: '2026-08-23' },
  ],
}
const me = { date_form: 'dmy', rights: ['see', 'keep-sites'], today: '2026-08-24', unit_system: 'metric' }
const drafts = (change: Partial<Schemas['Messages']> = {}): Schemas['Messages'] => ({
  mail: true,
  stations: [],
  known: true,
  drafts: [draft],
  ...change,
})

describe('letters to clients', () => {
  it('go to those with an address who were not told lately', () => expect(toTell(draft)).toEqual(['a']))
  it('go as they stand, changed or not, to whom is ticked', async () => {
    const asked = serves({ 'GET /me': me, 'GET /messages': drafts(), 'POST /messages': { sent: 2, failed: [] } })
    page(<Messages />)
    const juno = await screen.findByLabelText<HTMLInputElement>(/Juno/)
    expect(juno.checked).toBe(false)
    expect(screen.getByLabelText<HTMLInputElement>(/Piet/).disabled).toBe(true)
    await userEvent.click(juno)
    await userEvent.type(screen.getByRole('textbox', { name: /Text/ }), ' Drink, too.')
    await userEvent.click(screen.getByRole('button', { name: 'Send to 2' }))
    expect(await screen.findByText(/Sent to 2\./)).toBeTruthy()
    expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({ clients: ['a', 'c'], text: 'It will be hot. Drink, too.' })
  })
  it('name whom they did not reach, and go again under the same key', async () => {
    const asked = serves({ 'GET /me': me, 'GET /messages': drafts(), 'POST /messages': { sent: 0, failed: ['Orla'] } })
    page(<Messages />)
    const send = await screen.findByRole('button', { name: 'Send' })
    await userEvent.click(send)
    expect(await screen.findByText(/It did not reach Orla/)).toBeTruthy()
    await userEvent.click(send)
    await waitFor(() => expect(asked.filter((a) => a.method === 'POST')).toHaveLength(2))
    const keys = asked.filter((a) => a.method === 'POST').map((a) => (a.body as { id: string }).id)
    expect(keys[0]).toBe(keys[1])
  })
  it('say so where no mail goes out, where nothing is to be told, and where one may not send', async () => {
    serves({ 'GET /me': { ...me, rights: ['see'] }, 'GET /messages': drafts({ mail: false }) })
    page(<Messages />)
    expect(await screen.findByText(/sends no mail/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: /Send/ })).toBeNull()
    cleanup()
    serves({ 'GET /me': me, 'GET /messages': drafts({ drafts: [], station_id: 's', known: false }) })
    page(<Messages />)
    expect(await screen.findByText(/No visit tomorrow/)).toBeTruthy()
    expect(screen.getByText(/no forecast/)).toBeTruthy()
  })
})
