// @vitest-environment happy-dom
import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { page } from '../testing'
import { responseSaid, Thread } from './Thread'

afterEach(cleanup)

const words = {
  cause: new Map([
    ['heat-stress', { label: 'Heat stress' }],
    ['brown-patch', { label: 'Brown patch' }],
  ]),
  action: new Map([['insecticide-curative', { label: 'Insecticide on a count' }]]),
  findingLabel: (id: string) => ({ 'grubs-per-m2': 'Grubs counted', colour: 'Colour', 'pull-test': 'Pull' })[id] ?? id,
  valueLabel: (_: string, v: unknown) => String(v),
} as unknown as Words
const first: Schemas['Opinion'] = {
  on: '2026-07-20',
  visit_id: 'a',
  open: false,
  leading: 'heat-stress',
  probability: 0.85,
  responses: [],
}
const second = {
  on: '2026-08-10',
  visit_id: 'b',
  open: true,
  leading: 'brown-patch',
  probability: 0.93,
  responses: [],
  turn: {
    then: 0.1,
    now: 0.93,
    before: 'heat-stress',
    left: 0.04,
    season: 0,
    nearby: 0,
    learnt: 0,
    reasons: [
      { finding: 'colour', was: 'yellow', is: 'brown', bits: 3.2 },
      { finding: 'pull-test', was: 'resists', bits: -0.7 },
    ],
  },
} satisfies Schemas['Opinion']

describe('what was thought when', () => {
  it('stands newest first, with what turned it', () => {
    page(<Thread list={[first, second]} words={words} form="dmy" />)
    const thoughts = within(screen.getByRole('region')).getAllByRole('listitem')
    expect(thoughts[0]?.textContent).toContain('10 Aug 2026 Brown patch 93 % as the scales stand')
    expect(thoughts[0]?.textContent).toContain('Before, it was taken for heat stress, which is down to 4 %.')
    expect(screen.getByText('yellow, now brown')).toBeTruthy()
    expect(screen.getByText('decisive, toward brown patch')).toBeTruthy()
    expect(screen.getByText('resists, not looked at again')).toBeTruthy()
    expect(screen.getByText('fair, away from brown patch')).toBeTruthy()
    expect(thoughts.at(-1)?.textContent).toBe('20 Jul 2026 Heat stress 85 %')
  })
  it('says whether it became surer where the same leads', () => {
    const same = (then: number, now: number) => ({ ...second, leading: 'heat-stress', turn: { ...second.turn, before: '', then, now } })
    page(<Thread list={[first, same(0.85, 0.95)]} words={words} form="dmy" />)
    expect(screen.getByText('Surer than before: it was 85 %.')).toBeTruthy()
    cleanup()
    page(<Thread list={[first, same(0.85, 0.5)]} words={words} form="dmy" />)
    expect(screen.getByText('Less sure than before: it was 85 %.')).toBeTruthy()
    cleanup()
    page(<Thread list={[first, same(0.852, 0.848)]} words={words} form="dmy" />)
    expect(screen.getByText('As sure as before.')).toBeTruthy()
  })
  it('has nothing to say of a zone that nobody has diagnosed', () => {
    page(<Thread list={[]} words={words} form="dmy" />)
    expect(screen.queryByRole('region')).toBeNull()
  })
})

describe('what a treatment came to', () => {
  const r: Schemas['Response'] = {
    finding: 'answer-to-insecticide',
    action: 'insecticide-curative',
    on: '2026-08-03',
    word: 'none',
    by: 'count',
    count: 'grubs-per-m2',
    was: '2026-08-03',
    before: 100,
    now: 95,
  }
  it.each([
    [r, 'Insecticide on a count, 3 Aug 2026: it did not help. Grubs counted: 100 before, 95 now.'],
    [{ ...r, by: 'cover', word: 'better', before: 0.4, now: 0.7 }, '3 Aug 2026: it helped. 40 % green before, 70 % now.'],
    [{ ...r, by: 'area', before: 0.4, now: 0.41 }, 'it did not help. 40 % of it affected before, 41 % now.'],
    [{ ...r, by: 'spread' }, 'it did not help. it has spread since.'],
    [{ ...r, by: 'index', word: 'better' }, 'it helped. greener in the pictures.'],
  ] as [Schemas['Response'], string][])('%#', (x, want) => {
    expect(responseSaid(x, words, 'dmy').toLowerCase()).toContain(want.toLowerCase())
  })
})
