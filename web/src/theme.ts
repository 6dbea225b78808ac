import { theme, type ThemeConfig } from 'antd'

/** The colours of the two themes, each with one meaning; docs/look.md says why. CSS reads the same values. */
export const palettes = {
  sun: {
    ground: '#f5f1e6',
    sheet: '#fdfbf4',
    rule: '#d8d0ba',
    ink: '#1e2a23',
    faint: '#444e3f',
    mark: '#24523a',
    markInk: '#ffffff',
    go: '#1a5632',
    wait: '#684200',
    harm: '#8a2412',
    water: '#164a6d',
    wash: '#e9e3d0',
    focus: '#0b57a4',
    straw: '#c9a55c',
  },
  dusk: {
    ground: '#151b18',
    sheet: '#1d2521',
    rule: '#3b4740',
    ink: '#ece7d8',
    faint: '#b0b6a5',
    mark: '#8fcb9f',
    markInk: '#10201a',
    go: '#86cf98',
    wait: '#e5b659',
    harm: '#f29a84',
    water: '#8dc3ea',
    wash: '#28322d',
    focus: '#9ccbff',
    straw: '#d6b46d',
  },
} as const

export type ThemeName = keyof typeof palettes

export function applyTheme(name: ThemeName): void {
  const root = document.documentElement
  root.dataset.theme = name
  for (const [key, value] of Object.entries(palettes[name])) root.style.setProperty(`--${key}`, value)
}

export function antTheme(name: ThemeName): ThemeConfig {
  const p = palettes[name]
  return {
    algorithm: name === 'dusk' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: '"Atkinson Hyperlegible", system-ui, sans-serif',
      fontSize: 16,
      controlHeight: 44,
      controlHeightLG: 52,
      controlHeightSM: 44,
      borderRadius: 4,
      colorPrimary: p.mark,
      colorTextLightSolid: p.markInk,
      colorText: p.ink,
      colorTextSecondary: p.faint,
      colorTextPlaceholder: p.faint,
      colorBgBase: p.sheet,
      colorBgContainer: p.sheet,
      colorBgLayout: p.ground,
      colorBorder: p.faint,
      colorBorderSecondary: p.rule,
      colorError: p.harm,
      colorSuccess: p.go,
      colorWarning: p.wait,
      colorInfo: p.water,
      colorLink: p.mark,
      wireframe: false,
      motion: false,
      boxShadow: 'none',
      boxShadowSecondary: '0 6px 24px rgba(0,0,0,.18)',
    },
    components: {
      Button: {
        fontWeight: 700,
        defaultShadow: 'none',
        primaryShadow: 'none',
        colorPrimary: p.mark,
        colorPrimaryHover: p.mark,
        colorPrimaryActive: p.mark,
        primaryColor: p.markInk,
      },
    },
  }
}

const storageKey = 'hodos-theme'
export function storedTheme(): ThemeName {
  const s = localStorage.getItem(storageKey)
  if (s === 'sun' || s === 'dusk') return s
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dusk' : 'sun'
}
export function storeTheme(name: ThemeName): void {
  localStorage.setItem(storageKey, name)
}
