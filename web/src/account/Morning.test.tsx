// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { page, serves } from '../testing'
import { Morning } from './Morning'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const letter = {
  to: 'tam@averley.example',
  subject: 'Mon 24 Aug: 3 visits',
  text: 'Good morning Tam,\n  08:10  Quill',
  empty: false,
  hour: 5,
}

it('is sent to those who want it, and can be read at any time', async () => {
  const wanted = vi.fn()
  serves({ 'GET /me/morning': { ...letter, mail: true } })
  page(<Morning wanted={false} onWanted={wanted} />)
  await userEvent.click(screen.getByRole('checkbox', { name: /every morning/ }))
  expect(wanted).toHaveBeenCalledWith(true)
  expect(screen.queryByText('Mon 24 Aug: 3 visits')).toBeNull()
  await userEvent.click(screen.getByRole('button', { name: 'Show today’s' }))
  await screen.findByText('Mon 24 Aug: 3 visits')
  expect(screen.getByText(/08:10 Quill/)).toBeTruthy()
  expect(screen.queryByText(/not set up to send/)).toBeNull()
  await userEvent.click(screen.getByRole('button', { name: 'Close' }))
  expect(screen.queryByText('Mon 24 Aug: 3 visits')).toBeNull()
})

it('says where no letter can be sent', async () => {
  serves({ 'GET /me/morning': { ...letter, mail: false } })
  page(<Morning wanted onWanted={() => undefined} />)
  await userEvent.click(screen.getByRole('button', { name: 'Show today’s' }))
  await screen.findByText(/This server is not set up to send e-mail/)
})
