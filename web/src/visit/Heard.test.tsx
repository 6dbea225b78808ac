// @vitest-environment happy-dom
import { cleanup, screen } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { page } from '../testing'
import { Heard } from './Heard'

afterEach(cleanup)

const words = {
  findingLabel: () => 'Grubs counted',
  cause: new Map([['white-grubs', { label: 'White grubs' }]]),
} as unknown as Words

const result = (change: Partial<Schemas['Result']> = {}) =>
  ({
    causes: [
      { id: 'white-grubs', probability: 0.836 },
      { id: 'healthy-turf', probability: 0.1 },
      { id: 'rust', probability: 0.05 },
    ],
    enough: false,
    settled: false,
    ...change,
  }) as Schemas['Result']

describe('what is heard of the scales', () => {
  it('is the two that lead and where the visit goes on, and nothing else', () => {
    page(<Heard d={result()} words={words} next="grubs-per-m2" />)
    expect(screen.getByRole('status').textContent).toBe('White grubs 84 per cent, healthy-turf 10 per cent. Next: grubs counted')
  })
  it('is that enough is known, once it is', () => {
    page(<Heard d={result({ enough: true, settled: true })} words={words} next="grubs-per-m2" />)
    expect(screen.getByRole('status').textContent).toMatch(/10 per cent\. No further check would change the decision\.$/)
  })
  it('is nothing before anything is weighed', () => {
    page(<Heard d={undefined} words={words} />)
    expect(screen.getByRole('status').textContent).toBe('')
  })
})
