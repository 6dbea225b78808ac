import { describe, expect, it } from 'vitest'
import { beside } from './cases'
import type { Kept } from '../visit/kept'

const tap = (finding: string, value: unknown): Kept => ({
  id: finding,
  owner: 'f/p',
  at: 1,
  visit: 'v',
  zone: 'z',
  answer: { id: finding, finding, spot: 'worst', value: value as never, base: 0 },
})

describe('what is laid over a case', () => {
  it('takes back what the case knew and does not stand, then says what stands, then what waits', () => {
    const list = beside(
      {
        file: '{}',
        answered: [
          { finding: 'colour', spot: 'worst' },
          { finding: 'pull-test', spot: 'worst' },
        ],
      },
      [{ finding: 'pull-test', spot: 'worst', value: 'resists', seq: 4, by: 'Tam' }],
      [tap('grubs-per-m2', 96), tap('pull-test', null)],
    )
    const standing = new Map<string, unknown>()
    for (const a of list) standing.set(a.finding, a.value ?? null)
    expect(Object.fromEntries(standing)).toEqual({ colour: null, 'pull-test': null, 'grubs-per-m2': 96 })
    expect(list.map((a) => a.finding)).toEqual(['colour', 'pull-test', 'pull-test', 'grubs-per-m2', 'pull-test'])
  })
})
