/** One plot that was estimated: what was said and what it was, per cent. */
export interface Said {
  said: number
  was: number
}

/** How somebody's eye stands after some plots: points too many (or too few) on average, and how far off one estimate is as a rule. */
export function eye(list: Said[]): { n: number; bias: number; off: number } | undefined {
  const n = list.length
  if (n === 0) return undefined
  const bias = list.reduce((s, x) => s + x.said - x.was, 0) / n
  const off = list.reduce((s, x) => s + Math.abs(x.said - x.was), 0) / n
  return { n, bias, off }
}

const points = (x: number) => `${x.toFixed(x < 10 ? 1 : 0)} point${x === 1 ? '' : 's'}`

/** The same in words. */
export function inWords(list: Said[]): string {
  const e = eye(list)
  if (!e) return ''
  const side = Math.abs(e.bias) < 1 ? 'to neither side' : e.bias > 0 ? `${points(e.bias)} too much` : `${points(-e.bias)} too little`
  return `Over ${e.n} ${e.n === 1 ? 'plot' : 'plots'} you are ${points(e.off)} off as a rule, on average ${side}.`
}
