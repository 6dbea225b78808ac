import type { Schemas } from '../api/client'

/** The days of the view as CSV, in SI, one line a day, the windows behind. */
export function asCSV(v: Schemas['SkyView']): string {
  const cell = (x: number | null | undefined) => (x == null ? '' : String(x))
  const head = [
    'date',
    'forecast',
    'tmin_c',
    'tmax_c',
    'rain_mm',
    'irrigation_mm',
    'soil_mean_c',
    'soil_peak_c',
    'et_mm',
    'depletion_mm',
    'wet_hours',
    'growth',
    ...v.bands.map((b) => b.id),
  ]
  const lines = v.days.map((d, i) =>
    [
      d.date,
      d.forecast ? 'yes' : 'no',
      cell(d.tmin_c),
      cell(d.tmax_c),
      cell(d.rain_mm),
      cell(d.irrigation_mm),
      cell(d.soil_mean_c),
      cell(d.soil_peak_c),
      cell(d.et_mm),
      cell(d.depletion_mm),
      cell(d.wet_hours),
      cell(d.growth),
      ...v.bands.map((b) => cell(b.strength[i])),
    ].join(','),
  )
  return [head.join(','), ...lines].join('\n') + '\n'
}
