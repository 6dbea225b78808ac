/** What a probe measures: soil temperature in °C, or water in the soil in % by volume. */
export type Quantity = 'C' | '%'

/** One reading of a probe; at in ms. */
export interface Reading {
  value: number
  at: number
}

/** A reading stands still when it moves by no more than `within` over `over` ms (judgement: two minutes bring a thermometer to rest). */
const rest: Record<Quantity, { within: number; over: number }> = {
  C: { within: 0.2, over: 20_000 },
  '%': { within: 1, over: 5_000 },
}

export interface Settling {
  /** mean of the last readings, rounded to a tenth */
  value: number
  settled: boolean
  /** ms until it stands still, as it has been moving; undefined where that cannot be said yet */
  left: number | undefined
}

/** How far a stream of readings, oldest first, has come to rest; undefined before the first. */
export function settling(readings: Reading[], quantity: Quantity): Settling | undefined {
  const last = readings.at(-1)
  const first = readings[0]
  if (!last || !first) return undefined
  const { within, over } = rest[quantity]
  const recent = readings.filter((r) => last.at - r.at <= over)
  const values = recent.map((r) => r.value)
  const span = Math.max(...values) - Math.min(...values)
  const whole = last.at - first.at >= over
  const settled = whole && span <= within
  const mean = values.slice(-5).reduce((a, v) => a + v, 0) / Math.min(5, values.length)
  return { value: Math.round(mean * 10) / 10, settled, left: settled ? 0 : whole ? timeLeft(readings, span, within, over) : undefined }
}

/** A probe nears its end value like e^(−t/τ): from the spans of two neighbouring stretches follows when the span is small enough. */
function timeLeft(readings: Reading[], span: number, within: number, over: number): number | undefined {
  const end = readings.at(-1)?.at ?? 0
  if (end - (readings[0]?.at ?? 0) < 2 * over) return undefined
  const before = readings.filter((r) => end - r.at > over && end - r.at <= 2 * over).map((r) => r.value)
  const earlier = Math.max(...before) - Math.min(...before)
  if (earlier <= span || span <= 0) return undefined
  const tau = over / Math.log(earlier / span)
  return Math.min(300_000, Math.max(1000, Math.round(tau * Math.log(span / within))))
}
