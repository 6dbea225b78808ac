import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { reader } from '../format'
import { chartHeight, dayText, skyOption, tick } from './chart'

const day = (date: string, over: Partial<Schemas['SkyDay']> = {}): Schemas['SkyDay'] => ({
  date,
  forecast: false,
  tmin_c: 10,
  tmax_c: 20,
  rain_mm: 25.4,
  irrigation_mm: null,
  soil_mean_c: 15,
  soil_peak_c: 30,
  depletion_mm: 12.7,
  et_mm: 4,
  wet_hours: 9,
  growth: 0.8,
  ...over,
})
const view: Schemas['SkyView'] = {
  station: 'S',
  simulated: true,
  today: '2026-06-02',
  onset: '2026-06-01',
  warm: false,
  total_mm: 25.4,
  days: [day('2026-06-01'), day('2026-06-02', { tmax_c: null, depletion_mm: null }), day('2026-06-03', { forecast: true })],
  bands: [{ id: 'heat', kind: 'stress', label: 'Heat', strength: [0.9, null, 0], look_back_from: 0, look_back_to: 0 }],
  sentences: [],
  events: [
    { date: '2026-06-02', kind: 'reading', text: 'Soil <30' },
    { date: '2025-01-01', kind: 'visit', text: 'long ago' },
  ],
  missing: [],
  assumed: [],
  wet_by_hour: true,
  frost: { nights: 0, killing: 0, lowest_c: 8 },
  rain: { days_3: 0, days_7: 0, days_14: 0, days_30: 0, since_5_mm: 0 },
  endurance: { weeks: 5, used: 0, days_left: 35 },
}
interface Series {
  name: string
  data: unknown[]
  markLine?: { data: { xAxis?: string; yAxis?: number }[] }
}
const series = (system: 'metric' | 'us') =>
  skyOption(view, 'sun', { from: '2026-06-01', to: '2026-06-02' }, reader(system)).series as unknown as Series[]
const named = (list: Series[], name: string) => list.find((s) => s.name === name)

describe('the chart of sky and ground', () => {
  it('draws what is known and leaves gaps where nothing is', () => {
    const s = series('metric')
    expect(named(s, 'rain')?.data).toEqual([25.4, 25.4, 25.4])
    expect(named(s, 'left')?.data).toEqual([12.7, null, 12.7])
    expect(named(s, 'range')?.data).toEqual([10, null, 10])
    expect(named(s, 'windows')?.data).toEqual([
      [0, 1, 0.9, 0],
      [1, 0, 1, 5],
    ])
  })
  it('draws onset and today through every row', () => {
    const lines = series('metric').filter(
      (s) => s.markLine?.data.some((d) => d.xAxis === '2026-06-01') && s.markLine.data.some((d) => d.xAxis === '2026-06-02'),
    )
    expect(lines.map((s) => s.name)).toEqual(['low', 'events', 'left', 'events', 'growth', 'windows'])
  })
  it('reads in inches and Fahrenheit for who reads so', () => {
    const s = series('us')
    expect(named(s, 'rain')?.data).toEqual([1, 1, 1])
    expect(named(s, 'left')?.data).toEqual([0.5, null, 0.5])
    expect(named(s, 'soil, afternoon')?.data).toEqual([86, 86, 86])
    expect(named(s, 'left')?.markLine?.data.some((d) => d.yAxis === 0.5)).toBe(true)
  })
  it('says a day in words, and nothing that a mark holds becomes markup', () => {
    expect(dayText(view, 0, reader('us'))).toContain('rain 1.00 in')
    expect(dayText(view, 0, reader('us'))).toContain('0.50 of 1.00 in left')
    const text = dayText(view, 1, reader('metric'))
    expect(text).toContain('– of 25.4 mm left')
    expect(text).toContain('Soil &lt;30')
    expect(dayText(view, 9, reader('metric'))).toBe('')
  })
  it('grows with its rows', () => {
    expect(chartHeight(8)).toBeGreaterThan(chartHeight(4))
    expect(tick('2026-03-01')).toBe('1 Mar')
  })
})
