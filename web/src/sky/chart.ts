import { init, use as register, type EChartsType } from 'echarts/core'
import { BarChart, CustomChart, LineChart } from 'echarts/charts'
import {
  AxisPointerComponent,
  DataZoomComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { CanvasRenderer } from 'echarts/renderers'
import type { Schemas } from '../api/client'
import type { Reader } from '../format'
import { palettes, type ThemeName } from '../theme'

register([
  LineChart,
  BarChart,
  CustomChart,
  GridComponent,
  DataZoomComponent,
  TooltipComponent,
  MarkLineComponent,
  MarkAreaComponent,
  AxisPointerComponent,
  CanvasRenderer,
])

export type { EChartsType }
export const makeChart = (el: HTMLElement): EChartsType => init(el, undefined, { renderer: 'canvas' })

export interface Span {
  from: string
  to: string
}

/** The rows of the chart from top to bottom, with their share of the height. */
const rows = [
  { id: 'temperature', share: 3.2 },
  { id: 'rain', share: 1.5 },
  { id: 'water', share: 2 },
  { id: 'wet', share: 1.1 },
  { id: 'growth', share: 1 },
] as const

const left = 150
const right = 16
const bandHeight = 21

export const chartHeight = (bands: number): number => 486 + (bands + 1) * bandHeight + 40

/** A short date under the axis: the first of a month by its name. */
export const tick = (iso: string): string => {
  const [, m = '', d = ''] = iso.split('-')
  return `${Number(d)} ${['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][Number(m) - 1] ?? ''}`
}

interface Row {
  gridIndex: number
  top: number
  height: number
}

/** The whole chart as an option of the library; span is what a sentence points at. */
export function skyOption(v: Schemas['SkyView'], theme: ThemeName, span: Span | undefined, r: Reader) {
  const p = palettes[theme]
  const t = r.c
  const unit = r.temperature
  const wet = (x: number | null) => (x == null ? null : Math.round(r.mm(x) * 100) / 100)
  const dates = v.days.map((d) => d.date)
  const total = rows.reduce((s, r) => s + r.share, 0)
  const gap = 14
  let top = 26
  const place: Record<string, Row> = {}
  rows.forEach((r, i) => {
    const height = Math.round(((470 - gap * rows.length) * r.share) / total)
    place[r.id] = { gridIndex: i, top, height }
    top += height + gap
  })
  const bandRows = ['Done and read', ...v.bands.map((b) => b.label)]
  place['bands'] = { gridIndex: rows.length, top: top + 4, height: bandRows.length * bandHeight }
  const ids = [...rows.map((r) => r.id), 'bands']
  const ahead = v.days.findIndex((d) => d.forecast)
  const text = { color: p.faint, fontFamily: 'Atkinson Hyperlegible, system-ui, sans-serif', fontSize: 13 }
  const onset = v.onset && dates.includes(v.onset) ? v.onset : undefined
  const lines = (first: boolean) => ({
    silent: true,
    symbol: 'none',
    animation: false,
    data: [
      ...(onset
        ? [
            {
              xAxis: onset,
              lineStyle: { color: p.harm, width: 2, type: 'solid' as const },
              label: { show: first, formatter: 'first seen', color: p.harm, fontSize: 13, position: 'end' as const },
            },
          ]
        : []),
      ...(ahead > 0
        ? [
            {
              xAxis: dates[ahead - 1] ?? '',
              lineStyle: { color: p.ink, width: 1, type: 'dashed' as const },
              label: { show: first, formatter: 'today', color: p.ink, fontSize: 13, position: 'end' as const },
            },
          ]
        : []),
    ],
  })
  const areas = () => ({
    silent: true,
    animation: false,
    itemStyle: { color: p.focus, opacity: 0.14 },
    data: span ? [[{ xAxis: span.from }, { xAxis: span.to }]] : [],
  })
  const at = (id: string) => ({ xAxisIndex: place[id]?.gridIndex ?? 0, yAxisIndex: place[id]?.gridIndex ?? 0, animation: false })
  const soilLimit = v.warm ? 16 : 29.4
  const name = (id: string) =>
    ({
      temperature: `Air and\nsoil, ${unit}`,
      rain: `Rain and\nwatering, ${r.water}`,
      water: `Water in the\nroot zone, ${r.water}`,
      wet: 'Wet leaves, h',
      growth: 'Growth\npotential',
      bands: '',
    })[id] ?? ''
  const titles = ids.slice(0, -1)
  return {
    animation: false,
    textStyle: text,
    grid: ids.map((id) => ({ outerBoundsMode: 'none' as const, left, right, top: place[id]?.top, height: place[id]?.height })),
    axisPointer: { link: [{ xAxisIndex: 'all' as const }], lineStyle: { color: p.faint } },
    tooltip: {
      trigger: 'axis' as const,
      confine: true,
      backgroundColor: p.sheet,
      borderColor: p.faint,
      textStyle: { ...text, color: p.ink },
      formatter: (params: unknown) => dayText(v, (params as { dataIndex: number }[])[0]?.dataIndex ?? 0, r),
    },
    xAxis: ids.map((id, i) => ({
      type: 'category' as const,
      gridIndex: i,
      data: dates,
      boundaryGap: true,
      axisLine: { lineStyle: { color: p.rule } },
      axisTick: { show: id === 'bands', lineStyle: { color: p.rule } },
      axisLabel: { show: id === 'bands', ...text, formatter: tick, hideOverlap: true },
      axisPointer: { label: { show: false } },
    })),
    yAxis: ids.map((id, i) =>
      id === 'bands'
        ? {
            type: 'category' as const,
            gridIndex: i,
            data: bandRows,
            inverse: true,
            axisLine: { show: false },
            axisTick: { show: false },
            splitLine: { show: true, lineStyle: { color: p.rule } },
            axisLabel: { ...text, color: p.ink, width: left - 12, overflow: 'truncate' as const, interval: 0 },
          }
        : {
            type: 'value' as const,
            gridIndex: i,
            name: name(titles[i] ?? ''),
            nameLocation: 'middle' as const,
            nameGap: 42,
            nameRotate: 0,
            nameTextStyle: { ...text, color: p.ink, align: 'right' as const, lineHeight: 16 },
            scale: id === 'temperature',
            splitNumber: id === 'temperature' ? 4 : 2,
            ...(id === 'wet' ? { interval: 12 } : {}),
            splitLine: { lineStyle: { color: p.rule } },
            axisLabel: { ...text, fontSize: 12 },
            min: id === 'temperature' ? undefined : 0,
            max:
              id === 'growth'
                ? 1
                : id === 'wet'
                  ? 24
                  : id === 'water'
                    ? r.water === 'mm'
                      ? Math.max(1, Math.ceil(v.total_mm))
                      : Math.ceil(r.mm(v.total_mm) * 10) / 10
                    : undefined,
          },
    ),
    dataZoom: [
      {
        type: 'inside' as const,
        xAxisIndex: ids.map((_, i) => i),
        zoomOnMouseWheel: 'ctrl' as const,
        moveOnMouseMove: true,
        moveOnMouseWheel: false,
        minValueSpan: 7,
      },
    ],
    series: [
      {
        ...at('temperature'),
        type: 'line',
        name: 'low',
        data: v.days.map((d) => num(d.tmin_c, t)),
        symbol: 'none',
        lineStyle: { width: 1, color: p.faint },
        stack: 'air',
        markLine: lines(true),
        markArea: areas(),
      },
      {
        ...at('temperature'),
        type: 'line',
        name: 'range',
        data: v.days.map((d) => (d.tmin_c == null || d.tmax_c == null ? null : t(d.tmax_c) - t(d.tmin_c))),
        symbol: 'none',
        lineStyle: { width: 1, color: p.faint },
        areaStyle: { color: p.faint, opacity: 0.22 },
        stack: 'air',
      },
      {
        ...at('temperature'),
        type: 'line',
        name: 'soil, afternoon',
        data: v.days.map((d) => num(d.soil_peak_c, t)),
        symbol: 'none',
        lineStyle: { width: 2.5, color: p.harm },
      },
      {
        ...at('temperature'),
        type: 'line',
        name: 'soil, mean',
        data: v.days.map((d) => num(d.soil_mean_c, t)),
        symbol: 'none',
        lineStyle: { width: 1.5, color: p.wait },
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          data: [
            {
              yAxis: t(soilLimit),
              lineStyle: { color: p.harm, type: 'dashed' as const },
              label: {
                formatter: v.warm ? 'green-up begins' : 'roots suffer',
                position: 'insideStartTop' as const,
                color: p.harm,
                fontSize: 12,
              },
            },
          ],
        },
      },
      { ...at('rain'), type: 'bar', name: 'rain', data: v.days.map((d) => wet(d.rain_mm)), itemStyle: { color: p.water }, stack: 'in' },
      {
        ...at('rain'),
        type: 'line',
        name: 'events',
        data: dates.map(() => 0),
        symbol: 'none',
        lineStyle: { width: 0 },
        markLine: lines(false),
        markArea: areas(),
      },
      {
        ...at('rain'),
        type: 'bar',
        name: 'watering',
        data: v.days.map((d) => wet(d.irrigation_mm)),
        itemStyle: { color: p.go },
        stack: 'in',
      },
      {
        ...at('water'),
        type: 'line',
        name: 'left',
        data: v.days.map((d) => (d.depletion_mm == null ? null : wet(v.total_mm - d.depletion_mm))),
        symbol: 'none',
        lineStyle: { width: 2.5, color: p.water },
        areaStyle: { color: p.water, opacity: 0.25 },
        markArea: areas(),
        markLine: {
          ...lines(false),
          data: [
            ...lines(false).data,
            {
              yAxis: r.mm(v.total_mm / 2),
              lineStyle: { color: p.wait, type: 'dashed' as const },
              label: { formatter: 'half', position: 'insideStartTop' as const, color: p.wait, fontSize: 12 },
            },
          ],
        },
      },
      { ...at('wet'), type: 'bar', name: 'wet leaves', data: v.days.map((d) => d.wet_hours), itemStyle: { color: p.water, opacity: 0.6 } },
      {
        ...at('wet'),
        type: 'line',
        name: 'events',
        data: dates.map(() => 0),
        symbol: 'none',
        lineStyle: { width: 0 },
        markLine: lines(false),
        markArea: areas(),
      },
      {
        ...at('growth'),
        type: 'line',
        name: 'growth',
        data: v.days.map((d) => d.growth),
        symbol: 'none',
        lineStyle: { width: 2, color: p.go },
        areaStyle: { color: p.go, opacity: 0.2 },
        markLine: lines(false),
        markArea: areas(),
      },
      {
        ...at('bands'),
        type: 'custom',
        name: 'windows',
        renderItem: renderBand(p),
        encode: { x: 0, y: 1 },
        markLine: lines(false),
        markArea: areas(),
        clip: true,
        data: [
          ...v.bands.flatMap((b, k) => b.strength.flatMap((s, i) => (s != null && s > 0.02 ? [[i, k + 1, s, kinds.indexOf(b.kind)]] : []))),
          ...v.events.flatMap((m) => {
            const i = dates.indexOf(m.date)
            return i >= 0 ? [[i, 0, 1, 4 + ['treatment', 'reading', 'visit'].indexOf(m.kind)]] : []
          }),
        ],
      },
    ],
  }
}

const kinds = ['stress', 'disease', 'insect', 'work']
const num = (x: number | null, t: (c: number) => number): number | null => (x == null ? null : Math.round(t(x) * 10) / 10)

/** A band's day is a block whose height is its strength; what was done or read is a small mark of its own shape. */
function renderBand(p: (typeof palettes)[ThemeName]) {
  const fill = [p.harm, p.mark, p.wait, p.go]
  return (
    _: unknown,
    api: { value: (i: number) => number; coord: (x: number[]) => number[]; size?: (x: number[]) => number[] | number },
  ) => {
    const [x = 0, y = 0] = api.coord([api.value(0), api.value(1)])
    const size = api.size?.([1, 1])
    const [w = 6, h = bandHeight] = Array.isArray(size) ? size : [6, bandHeight]
    const kind = api.value(3)
    if (kind >= 4) {
      const points =
        kind === 4
          ? [
              [x, y - 7],
              [x + 7, y + 6],
              [x - 7, y + 6],
            ]
          : kind === 5
            ? [
                [x, y - 7],
                [x + 7, y],
                [x, y + 7],
                [x - 7, y],
              ]
            : [
                [x - 5, y - 5],
                [x + 5, y - 5],
                [x + 5, y + 5],
                [x - 5, y + 5],
              ]
      return { type: 'polygon' as const, shape: { points }, style: { fill: p.ink } }
    }
    const strength = Math.min(1, api.value(2))
    const tall = Math.max(3, (h - 4) * strength)
    return {
      type: 'rect' as const,
      shape: { x: x - w / 2, y: y + h / 2 - 2 - tall, width: w + 0.5, height: tall },
      style: { fill: fill[kind] ?? p.mark, opacity: 0.35 + 0.65 * strength },
    }
  }
}

/** One day in words, for the tooltip and the table. */
export function dayText(v: Schemas['SkyView'], i: number, r: Reader): string {
  const t = r.c
  const unit = r.temperature
  const d = v.days[i]
  if (!d) return ''
  const n = (x: number | null, digits = 0) => (x == null ? '–' : x.toFixed(digits))
  const open = v.bands.filter((b) => (b.strength[i] ?? 0) >= 0.5).map((b) => b.label)
  const events = v.events.filter((m) => m.date === d.date).map((m) => m.text)
  return [
    `<b>${tick(d.date)}${d.forecast ? ', forecast' : ''}</b>`,
    `air ${n(num(d.tmin_c, t))} to ${n(num(d.tmax_c, t))} ${unit}, soil ${n(num(d.soil_mean_c, t))}, afternoon ${n(num(d.soil_peak_c, t))}`,
    `rain ${d.rain_mm == null ? '–' : r.depth(d.rain_mm, true)} ${r.water}${d.irrigation_mm ? `, watered ${r.depth(d.irrigation_mm, true)} ${r.water}` : ''}`,
    `${d.depletion_mm == null ? '–' : r.depth(v.total_mm - d.depletion_mm, true)} of ${r.depth(v.total_mm, true)} ${r.water} left in the root zone`,
    `leaves wet ${n(d.wet_hours, 1)} h`,
    ...(open.length ? [open.join(', ')] : []),
    ...events.map((m) => `<b>${m.replaceAll('<', '&lt;')}</b>`),
  ].join('<br>')
}
