import { expect, it } from 'vitest'
import { clockOf, hourOf } from './ByHand'

it('reads a clock as hours and shows them again', () => {
  expect(hourOf('14:30')).toBe(14.5)
  expect(hourOf('')).toBeNull()
  expect(clockOf(14.5)).toBe('14:30')
  expect(clockOf(9 + 5 / 60)).toBe('09:05')
  expect(clockOf(0)).toBe('00:00')
})
