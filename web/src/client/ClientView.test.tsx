// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import Letters from '../firm/Letters'
import { page, serves } from '../testing'
import ClientView from './ClientView'

const rights: string[] = []
vi.mock('../api/queries', async (original) => ({
  ...(await original<typeof import('../api/queries')>()),
  useMe: () => ({ data: { date_form: 'dmy', rights } }),
}))

afterEach(() => {
  cleanup()
  rights.length = 0
  vi.unstubAllGlobals()
})

const letter = {
  firm: { name: 'Averley', phone: '', email: '', address: '', website: '', poison_centre: '' },
  client: 'Orla Brandt',
  site: '14 Quill Lane',
  address: '',
  made_on: '2026-08-24',
  date_form: 'dmy',
  unit_system: 'metric',
  zones: [],
}
const link = { id: 'l1', made_by: 'Lena Scholl', created_at: '2026-08-24T10:00:00Z', expires_at: '2026-11-24T10:00:00Z', opened: 0 }

function shown(answers: Record<string, unknown>) {
  const asked = serves({ 'GET /sites/s1/client-page': letter, 'GET /sites/s1/links': [], ...answers })
  page(<ClientView />, '/sites/s1/client', '/sites/:site/client')
  return asked
}

it('makes a link that is shown once, and sends it where that is asked for', async () => {
  rights.push('keep-sites')
  const made = { ...link, withdrawn: false, expired: false, path: '/for/abc', sent: true }
  const asked = shown({ 'POST /sites/s1/links': made })
  await userEvent.selectOptions(await screen.findByLabelText('Valid for'), 'a month')
  await userEvent.click(screen.getByLabelText(/Send it to the client by email/))
  await userEvent.click(screen.getByRole('button', { name: 'Make a link' }))
  await screen.findByText('Sent to the client. Shown here once.')
  expect(screen.getByLabelText<HTMLInputElement>('The link').value).toMatch(/\/for\/abc$/)
  expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({ days: 30, send: true })
})

it('says so when the email did not go out', async () => {
  rights.push('keep-sites')
  shown({ 'POST /sites/s1/links': { ...link, withdrawn: false, expired: false, path: '/for/abc' } })
  await userEvent.click(await screen.findByLabelText(/Send it to the client by email/))
  await userEvent.click(screen.getByRole('button', { name: 'Make a link' }))
  await screen.findByText(/The email did not go out. Shown once/)
})

it('tells how each link stands, and withdraws an open one', async () => {
  rights.push('keep-sites')
  const asked = shown({
    'GET /sites/s1/links': [
      { ...link, withdrawn: false, expired: false, opened: 3, opened_at: '2026-08-25T10:00:00Z' },
      { ...link, id: 'l2', withdrawn: true, expired: false },
      { ...link, id: 'l3', withdrawn: false, expired: true },
    ],
    'DELETE /links/l1': {},
  })
  await screen.findByText(/Open until 24 Nov 2026/)
  expect(screen.getByText(/opened 3 times, last on 25 Aug 2026/)).toBeTruthy()
  expect(screen.getByText(/^Withdrawn/)).toBeTruthy()
  expect(screen.getByText(/Ran out on 24 Nov 2026/)).toBeTruthy()
  await userEvent.click(screen.getByRole('button', { name: 'Withdraw' }))
  await waitFor(() => expect(asked.some((a) => a.method === 'DELETE' && a.path === '/links/l1')).toBe(true))
})

it('shows the page alone to who may make no links', async () => {
  shown({})
  await screen.findByText('None yet.')
  expect(screen.queryByRole('button', { name: 'Make a link' })).toBeNull()
})

it('shows the letters that the demo would have sent', async () => {
  serves({ 'GET /demo/letters': [{ to: 'orla@post.example', subject: 'Your lawn at 14 Quill Lane', text: 'Hello Orla' }] })
  page(<Letters />)
  await screen.findByRole('heading', { name: 'Your lawn at 14 Quill Lane' })
  expect(screen.getByText('to orla@post.example')).toBeTruthy()
  cleanup()
  serves({ 'GET /demo/letters': [] })
  page(<Letters />)
  await screen.findByText(/No letter yet/)
})
