import { expect, test } from 'vitest'
import { onward, type Way } from './onward'

test('"All saved" is said once, after something stood in the way', () => {
  const steps: [bar: boolean, busy: boolean, way: string][] = [
    [false, true, 'clear'], // an answer goes its way
    [false, false, 'clear'],
    [true, true, 'barred'], // no connection
    [false, true, 'barred'], // it is back, and they go out
    [false, false, 'cleared'],
    [false, false, 'cleared'],
    [false, true, 'clear'], // the next answer
    [false, false, 'clear'],
  ]
  let way: Way = 'clear'
  for (const [bar, busy, then] of steps) {
    way = onward(way, bar, busy)
    expect(way).toBe(then)
  }
})
