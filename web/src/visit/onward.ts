export type Way = 'clear' | 'barred' | 'cleared'

/** Whether something stood in the way of what is sent: cleared once all of it is through, until something new is given. */
export function onward(way: Way, bar: boolean, busy: boolean): Way {
  if (bar) return 'barred'
  if (way === 'barred') return busy ? 'barred' : 'cleared'
  return busy ? 'clear' : way
}
