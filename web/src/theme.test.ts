import { describe, expect, it } from 'vitest'
import { antTheme, palettes } from './theme'

const channel = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
const luminance = (hex: string) => {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => channel(parseInt(hex.slice(i, i + 2), 16) / 255))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
/** Contrast after WCAG 2.2. */
const contrast = (a: string, b: string) => {
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number]
  return (x + 0.05) / (y + 0.05)
}

describe.each(Object.entries(palettes))('theme %s', (name, p) => {
  it.each(['ink', 'faint', 'go', 'wait', 'harm', 'water', 'mark'] as const)('%s is read in the sun on every ground', (token) => {
    for (const ground of [p.ground, p.sheet, p.wash]) expect(contrast(p[token], ground)).toBeGreaterThanOrEqual(4.5)
  })
  it('buttons are read', () => expect(contrast(p.markInk, p.mark)).toBeGreaterThanOrEqual(4.5))
  it('the focus stands out', () => expect(contrast(p.focus, p.ground)).toBeGreaterThanOrEqual(3))
  it('the component library follows it', () =>
    expect(antTheme(name as keyof typeof palettes).token).toMatchObject({ colorPrimary: p.mark, controlHeight: 44 }))
})
