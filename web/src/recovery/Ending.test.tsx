// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { Nearby, placed, windSaid } from '../scales/Nearby'
import { page, serves } from '../testing'
import { held } from './Course'
import { CameBack, CloseCase } from './Ending'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const words = {
  cause: new Map([
    ['white-grubs', { id: 'white-grubs', label: 'White grubs' }],
    ['rust', { id: 'rust', label: 'Rust' }],
  ]),
  action: new Map([
    ['insecticide-curative', { label: 'Insecticide on a count' }],
    ['insecticide-preventive', { label: 'Insecticide before the eggs' }],
  ]),
} as unknown as Words
const open: Schemas['Ending'] = { cause: 'white-grubs', prevented: true, again: [] }
const again: Schemas['Again'] = {
  cause: 'white-grubs',
  times: ['2024-09-05', '2025-09-12'],
  why: 'beetles fly in again each summer',
  eased: ['insecticide-curative'],
  ended: [],
  ends: [{ action: 'insecticide-preventive', price: 40 }],
}

describe('a cause that has come back', () => {
  it('is said aloud with what only eased it and what would end it', () => {
    page(<CameBack ending={{ ...open, again: [again] }} words={words} form="dmy" currency="USD" />)
    expect(screen.getByRole('heading').textContent).toBe('White grubs: the second time in three years')
    expect(
      screen.getByText(/Found on 5 Sep 2024, 12 Sep 2025\. Done since: insecticide on a count\. That eases it\. Beetles fly in/),
    ).toBeTruthy()
    expect(screen.getByRole('listitem').textContent).toBe('Insecticide before the eggs, about 40 USD a time')
  })
  it('says what is being done already', () => {
    const done = { ...again, times: [...again.times, '2026-08-24'], ended: ['insecticide-preventive'] }
    page(<CameBack ending={{ ...open, again: [done] }} words={words} form="dmy" currency="USD" />)
    expect(screen.getByRole('heading').textContent).toBe('White grubs: 3 times in three years')
    expect(screen.getByText('Keep on with what ends it:')).toBeTruthy()
    expect(screen.getByText(', done already')).toBeTruthy()
  })
  it('says nothing where nothing came back', () => {
    page(<CameBack ending={open} words={words} form="dmy" currency="USD" />)
    expect(screen.queryByRole('heading')).toBeNull()
  })
})

describe('the end of a case', () => {
  const shown = (ending: Schemas['Ending'], recovered = true, may = true) =>
    page(<CloseCase ending={ending} words={words} form="dmy" visit="v1" zone="z1" recovered={recovered} may={may} />)
  it('asks what it was after all and whether it is mended', async () => {
    const asked = serves({ 'POST /visits/v1/closings': {} })
    shown(open)
    const close = screen.getByRole<HTMLButtonElement>('button', { name: 'Close it' })
    expect(close.disabled).toBe(true)
    expect(screen.getByText(/Nothing is booked against the next time/)).toBeTruthy()
    await userEvent.selectOptions(screen.getByLabelText('What it was after all'), 'rust')
    await userEvent.click(screen.getByRole('button', { name: 'stays; lived with' }))
    await userEvent.type(screen.getByLabelText('Note on the end'), 'dry corner')
    await userEvent.click(close)
    await waitFor(() =>
      expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({
        zone_id: 'z1',
        cause: 'rust',
        ended: 'stays',
        note: 'dry corner',
      }),
    )
  })
  it('is offered by a button while the lawn is on its way, and not at all to who may not, or without a diagnosis', async () => {
    shown(open, false)
    expect(screen.queryByRole('form')).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: 'Close the case' }))
    expect(screen.getByRole('form', { name: 'Close the case' })).toBeTruthy()
    cleanup()
    shown(open, true, false)
    expect(screen.queryByRole('button')).toBeNull()
    cleanup()
    shown({ ...open, cause: '' })
    expect(screen.queryByRole('button')).toBeNull()
  })
  it('says how it ended and what is booked', () => {
    shown({
      ...open,
      closed: { id: 'k', zone_id: 'z1', cause: 'white-grubs', ended: 'mended', note: '', closed_on: '2026-08-24' },
      preventive: { id: 'j', action: 'insecticide-preventive', due_on: '2027-06-10' },
    })
    expect(screen.getByText(/White grubs, mended, on 24 Aug 2026/)).toBeTruthy()
    expect(screen.getByText(/Booked against the next time: insecticide before the eggs/).textContent).toContain('10 Jun 2027')
  })
})

describe('cases nearby', () => {
  it('lie where they are', () => {
    expect(windSaid(0)).toBe('north')
    expect(windSaid(350)).toBe('north')
    expect(windSaid(100)).toBe('east')
    expect(placed({ km: 22, toward: 90 }).x).toBeCloseTo(92)
    expect(placed({ km: 11, toward: 180 }).y).toBeCloseTo(46)
    expect(placed({ km: 400, toward: 0 }).y).toBeCloseTo(-92)
  })
  it('are listed by day, way and wind, those of the cause alone', async () => {
    serves({
      'GET /sites/s1/nearby': [
        { cause: 'rust', on: '2026-08-20', km: 3.2, toward: 44, warm: false, closed: false },
        { cause: 'white-grubs', on: '2026-08-21', km: 1, toward: 0, warm: false, closed: true },
      ],
    })
    page(<Nearby site="s1" cause="rust" form="dmy" />)
    expect((await screen.findByRole('listitem')).textContent).toBe('20 Aug 2026: 3.2 km to the north-east')
  })
})

it('joins the days that one thing holds back', () => {
  const day = (limit: '' | 'cold' | 'heat' | 'dry') => ({ limit })
  expect(held([day(''), day('cold'), day('cold'), day(''), day('heat'), day('dry')])).toEqual([
    { from: 0, to: 2, limit: 'cold' },
    { from: 3, to: 4, limit: 'heat' },
    { from: 4, to: 5, limit: 'dry' },
  ])
  expect(held([day('cold')])).toEqual([])
})
