// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { page, serves } from '../testing'
import { outbox } from '../visit/box'
import { SameChecks } from './SameChecks'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const pull = {
  id: 'pull-test',
  label: 'Pull',
  ask: 'Pull at a handful',
  kind: 'one-of',
  values: [
    { id: 'resists', label: 'resists' },
    { id: 'lifts-like-carpet', label: 'lifts like a carpet' },
  ],
  procedure: 'pull',
  station: 'pull',
  minutes: 0.5,
}
const words = {
  finding: new Map([['pull-test', pull]]),
  procedure: new Map([['pull', { caution: '' }]]),
  raw: { causes: [] },
  findingLabel: () => 'Pull',
  valueLabel: (_: string, v: unknown) => String(v).replaceAll('-', ' '),
} as unknown as Words
const me = { date_form: 'dmy', unit_system: 'metric' } as unknown as Schemas['Me']

it('offers what was found before, and one press says that it is so again', async () => {
  serves({ 'GET /visits/v/zones/z/scales': { seq: 0, answers: [], diagnosis: { causes: [] } } })
  const put = vi.spyOn(outbox, 'put').mockResolvedValue(undefined)
  page(
    <SameChecks
      again={[
        { finding: 'pull-test', value: 'lifts-like-carpet', on: '2026-08-10' },
        { finding: 'given-up', value: 1, on: '2026-08-10' },
      ]}
      visit="v"
      zone="z"
      words={words}
      me={me}
    />,
  )
  const offer = await screen.findByRole('button', { name: /As on 10 Aug 2026/ })
  expect(offer.textContent).toContain('lifts like carpet')
  await userEvent.click(offer)
  await waitFor(() => expect(put).toHaveBeenCalled())
  expect(JSON.stringify(put.mock.calls[0])).toContain('"finding":"pull-test"')
  expect(JSON.stringify(put.mock.calls[0])).toContain('"value":"lifts-like-carpet"')
})

it('takes no room where nothing was diagnosed', () => {
  serves({ 'GET /visits/v/zones/z/scales': { seq: 0, answers: [], diagnosis: { causes: [] } } })
  page(<SameChecks again={[]} visit="v" zone="z" words={words} me={me} />)
  expect(screen.queryByRole('region')).toBeNull()
})
