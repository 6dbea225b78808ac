import { describe, expect, it } from 'vitest'
import { ago, browserOf } from './words'

describe('a session in words', () => {
  it.each([
    [
      'Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) AppleWebKit/605.1 (KHTML, like Gecko) Version/19.0 Mobile/15E148 Safari/604.1',
      'Safari on iPhone',
    ],
    ['Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0 Safari/537.36', 'Chrome on Linux'],
    [
      'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/150.0 Safari/537.36 Edg/150.0',
      'Edge on Windows',
    ],
    ['curl/8.5', 'curl/8.5'],
    ['', 'An unknown program'],
  ])('calls the browser by its name', (agent, want) => expect(browserOf(agent)).toBe(want))
  it('says how long ago', () => {
    const now = new Date('2026-08-24T12:00:00Z')
    expect(ago('2026-08-24T11:58:00Z', now)).toBe('used just now')
    expect(ago('2026-08-24T11:20:00Z', now)).toBe('used 40 minutes ago')
    expect(ago('2026-08-24T11:00:00Z', now)).toBe('used an hour ago')
    expect(ago('2026-08-24T02:00:00Z', now)).toBe('used 10 hours ago')
    expect(ago('2026-08-21T12:00:00Z', now)).toBe('used 3 days ago')
  })
})
