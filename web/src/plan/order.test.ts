import { expect, test } from 'vitest'
import type { Schemas } from '../api/client'
import { inOrder, read } from './order'

const line = (over: Partial<Schemas['ActionLine']>): Schemas['ActionLine'] => ({
  id: 'water-deep',
  group: 'water',
  label: 'Water deeply',
  verdict: 'do-now',
  called: true,
  reasons: ['dry'],
  cautions: [],
  grade: 'B',
  order: 22,
  ...over,
})

test('lines come in the order of work, not in that of the groups', () => {
  const all = [line({ id: 'apply-nitrogen', order: 62 }), line({ id: 'hold-mowing', order: 12 }), line({ order: 22 })]
  expect(inOrder(all).map((a) => a.id)).toEqual(['hold-mowing', 'water-deep', 'apply-nitrogen'])
  expect(all[0]?.id).toBe('apply-nitrogen')
})

test('what nothing calls for is told apart from what somebody may be tempted to, by a field and not by words', () => {
  const plan = read([
    line({ id: 'apply-gypsum', verdict: 'avoid', called: true, reasons: ['nothing found calls for it'] }),
    line({ id: 'scarify', verdict: 'avoid', called: false, reasons: ['gypsum moves no pH'] }),
  ])
  expect(plan.leave.map((a) => a.id)).toEqual(['apply-gypsum'])
  expect(plan.idle.map((a) => a.id)).toEqual(['scarify'])
})

test('one job is listed once, in the form in which it is done', () => {
  const plan = read([line({ as: 'light-watering-of-new-stands' }), line({ id: 'light-watering-of-new-stands', order: 20 })])
  expect(plan.now.map((a) => a.id)).toEqual(['light-watering-of-new-stands'])
})

test('what comes later comes by its date', () => {
  const plan = read([
    line({ id: 'a', verdict: 'schedule', from: '2026-10-01', order: 10 }),
    line({ id: 'b', verdict: 'schedule', from: '2026-09-01', order: 90 }),
  ])
  expect(plan.later.map((a) => a.id)).toEqual(['b', 'a'])
})
