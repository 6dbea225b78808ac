import { expect, test } from 'vitest'
import type { Schemas } from '../api/client'
import { asCSV } from './csv'

test('a day a line, what is not known stays empty', () => {
  const day = {
    forecast: false,
    tmin_c: 12.5,
    tmax_c: null,
    rain_mm: 0,
    irrigation_mm: null,
    soil_mean_c: 15,
    soil_peak_c: 19,
    et_mm: 3.1,
    depletion_mm: 8,
    wet_hours: null,
    growth: 0.5,
  }
  const v = {
    days: [
      { ...day, date: '2026-08-01' },
      { ...day, date: '2026-08-02', forecast: true },
    ],
    bands: [{ id: 'heat', kind: 'stress', label: 'Heat', strength: [0.4, null], look_back_from: 0, look_back_to: 0 }],
  } as unknown as Schemas['SkyView']
  const lines = asCSV(v).trimEnd().split('\n')
  expect(lines).toHaveLength(3)
  expect(lines[0]).toBe(
    'date,forecast,tmin_c,tmax_c,rain_mm,irrigation_mm,soil_mean_c,soil_peak_c,et_mm,depletion_mm,wet_hours,growth,heat',
  )
  expect(lines[1]).toBe('2026-08-01,no,12.5,,0,,15,19,3.1,8,,0.5,0.4')
  expect(lines[2]?.endsWith(',0.5,')).toBe(true)
})
