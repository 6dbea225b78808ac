// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { expect, it } from 'vitest'
import { halfHours } from './VisitForm'

it('offers every half hour of the span, both ends in it', () => {
  const list = halfHours('06:00', '07:30').map(([t]) => t)
  expect(list).toEqual(['06:00', '06:30', '07:00', '07:30'])
  expect(halfHours('09:30', '10:00')[0]).toEqual(['09:30', '09:30'])
})
