// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import { Beside } from './Beside'
import { Photos } from './Photos'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const photo = (more: Partial<Schemas['Photo']> = {}): Schemas['Photo'] => ({
  id: 'p1',
  visit_id: 'v',
  zone_id: 'z',
  taken_at: '2026-08-24T15:00:00Z',
  by: 'Tam Whitlock',
  kind: 'measure',
  about: 'cover',
  spot: 'worst',
  note: 'by the gate',
  width: 4,
  height: 3,
  wanted: { hue_low: 60, hue_high: 120, saturation: 0.1 },
  cover: 0.54,
  error: 0.03,
  index: 0.5,
  faults: [],
  ...more,
})
const sum: Schemas['PhotoSum'] = { about: 'cover', spot: 'worst', of: 3, cover: 0.54, error: 0.12, index: 0.5 }

describe('the pictures of a visit', () => {
  it('show what each came to, and what they come to together', async () => {
    serves({ 'GET /visits/v/zones/z/photos': { photos: [photo(), photo({ id: 'p2', faults: ['dark'] })], sums: [sum] } })
    const onTake = vi.fn()
    page(<Photos visit="v" zone="z" may onTake={onTake} />)
    await screen.findByText('Green cover of the bad spot: 54 % ± 12 from 3 pictures')
    expect(screen.getAllByText('54 % ± 3')).toHaveLength(2)
    expect(screen.getByText('Not counted: too dark.')).toBeTruthy()
    await userEvent.click(screen.getByRole('button', { name: 'Take as spring green-up' }))
    expect(onTake).toHaveBeenCalledWith('green-up-percent', 54)
  })
  it('ask for more than one', async () => {
    serves({ 'GET /visits/v/zones/z/photos': { photos: [], sums: [{ ...sum, of: 1 }] } })
    page(<Photos visit="v" zone="z" may />)
    await screen.findByText(/Take three or more/)
    expect(screen.queryByRole('button', { name: /Take as/ })).toBeNull()
  })
  it('open to be looked at, and are deleted from there', async () => {
    const asked = serves({ 'GET /visits/v/zones/z/photos': { photos: [photo()], sums: [] }, 'DELETE /photos/p1': {} })
    page(<Photos visit="v" zone="z" may />)
    await userEvent.click(await screen.findByRole('button', { name: /Picture by Tam/ }))
    expect(screen.getByText('by the gate')).toBeTruthy()
    expect(screen.getByRole<HTMLImageElement>('img').src).toContain('/photos/p1/picture')
    await userEvent.click(screen.getByRole('button', { name: 'Delete' }))
    await waitFor(() => expect(asked.some((a) => a.method === 'DELETE')).toBe(true))
  })
  it('are only looked at by whoever may not take any', async () => {
    serves({ 'GET /visits/v/zones/z/photos': { photos: [photo()], sums: [] } })
    page(<Photos visit="v" zone="z" may={false} />)
    await screen.findByRole('button', { name: /Picture by Tam/ })
    expect(screen.queryByRole('button', { name: 'Take a picture' })).toBeNull()
  })
})

describe('before and after', () => {
  const later = photo({ id: 'p3', taken_at: '2026-09-20T15:00:00Z', cover: 0.8 })
  it('lie one over the other, with what has changed', async () => {
    serves({ 'GET /zones/z/photos': { photos: [later, photo()], sums: [] } })
    page(<Beside zone="z" form="dmy" />)
    await screen.findByText('Green cover up by 26 points.')
    expect(screen.getByAltText('Before: 24 Aug 2026, 54 % ± 3')).toBeTruthy()
    expect(screen.getByAltText('After: 20 Sep 2026, 80 % ± 3')).toBeTruthy()
  })
  it('can be picked from more than two', async () => {
    const middle = photo({ id: 'p2', taken_at: '2026-09-05T15:00:00Z', cover: 0.6 })
    serves({ 'GET /zones/z/photos': { photos: [later, middle, photo()], sums: [] } })
    page(<Beside zone="z" form="dmy" />)
    await userEvent.selectOptions(await screen.findByLabelText('After'), 'p2')
    expect(screen.getByText('Green cover up by 6 points.')).toBeTruthy()
  })
  it('are nothing while there is one', async () => {
    const asked = serves({ 'GET /zones/z/photos': { photos: [photo()], sums: [] } })
    page(<Beside zone="z" form="dmy" />)
    await waitFor(() => expect(asked).toHaveLength(1))
    expect(screen.queryByText('Before and after')).toBeNull()
  })
})
