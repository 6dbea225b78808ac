// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import { amongSaid, LikeLawns } from './Alike'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const green: Schemas['AlikeOf'] = { own: 40, n: 5, median: 70, quarter: 60, three_quarters: 75, word: 'behind' }

it('says where a lawn stands among the others', () => {
  const as = (x: number) => `${x} %`
  expect(amongSaid(green, as)).toBe('half are between 60 % and 75 %, this one is at 40 %')
  expect(amongSaid({ n: 1, median: 70, quarter: 70, three_quarters: 70, word: '' }, as)).toBe('the other is at 70 %')
  expect(amongSaid({ n: 3, median: 70, quarter: 70, three_quarters: 70, word: '' }, as)).toBe('they are at 70 %')
})

it('shows what is known of them, and nothing where nothing is', async () => {
  const alike: Schemas['Alike'] = { lawns: 5, km: 15, days: 14, green_up: green, same: { of: 2, n: 5 }, at_rest: { of: 1, n: 3 } }
  serves({ 'GET /visits/v/zones/z/alike': alike })
  page(<LikeLawns visit="v" zone="z" shown="a" />)
  await screen.findByText('2 of 5')
  expect(screen.getByText('1 of 3').closest('li')?.textContent).toBe('1 of 3 were found dormant')
  expect(screen.getByText('This one is behind.')).toBeTruthy()
  expect(screen.getByText('5 lawns within 15 km, seen in the last 14 days')).toBeTruthy()
  expect(screen.queryByText(/Colour index/)).toBeNull()
  cleanup()
  const asked = vi.fn()
  serves({ 'GET /visits/v/zones/z/alike': { lawns: 3, km: 15, days: 14, same: { of: 0, n: 0 }, at_rest: { of: 0, n: 2 } } })
  const served = globalThis.fetch
  vi.stubGlobal('fetch', (r: Request) => {
    asked()
    return served(r)
  })
  page(<LikeLawns visit="v" zone="z" shown="b" />)
  await waitFor(() => expect(asked).toHaveBeenCalled())
  expect(screen.queryByText(/other lawns/)).toBeNull()
})
