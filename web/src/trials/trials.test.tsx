// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import TrialPage from './TrialPage'
import { curves, plotsFor, suppressionSaid, treatmentSaid } from './words'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a layout', () => {
  it('has every treatment once in each repeat, each time one place on', () => {
    const plots = plotsFor(
      [
        { treatment: 'x', dose: 1 },
        { treatment: 'x', dose: 2 },
      ],
      3,
    )
    expect(plots.map((p) => p.dose)).toEqual([0, 1, 2, 1, 2, 0, 2, 0, 1])
    expect(plots.map((p) => p.name)).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9'])
    expect(plots.filter((p) => p.treatment === '')).toHaveLength(3)
  })
})

describe('what is said', () => {
  it.each([
    [{ value: 48, low: 33, high: 61, open: false }, '48 % less (33 to 61 %)'],
    [{ value: -20, low: -45, high: -5, open: false }, '20 % more (5 to 45 %)'],
    [{ value: 12, low: -8, high: 30, open: false }, '12 % less, which may be chance (8 % more to 30 % less)'],
    [{ value: 30, low: 0, high: 0, open: true }, '30 % less; how sure that is cannot be said'],
    [undefined, ''],
  ] as [Schemas['TrialInterval'] | undefined, string][])('%#', (s, want) => expect(suppressionSaid(s)).toBe(want))
  it('names a treatment with its dose', () => {
    expect(treatmentSaid({ treatment: '', dose: 0 }, 'g')).toBe('Untreated')
    expect(treatmentSaid({ treatment: 'Silicon', dose: 2.5 }, 'g/m²')).toBe('Silicon, 2.5 g/m²')
    expect(treatmentSaid({ treatment: 'Aeration', dose: 0 }, 'g/m²')).toBe('Aeration')
  })
})

const trial: Schemas['Trial'] = {
  id: 't',
  zone_id: 'z',
  name: 'Silicon',
  began_on: '2026-08-01',
  version: 1,
  plots: [
    {
      id: 'a',
      name: '1',
      readings: [
        { kind: 'affected', on: '2026-08-01', value: 10 },
        { kind: 'affected', on: '2026-08-08', value: 20 },
        { kind: 'uptake', on: '2026-08-08', value: 1 },
      ],
    },
    { id: 'b', name: '2', readings: [{ kind: 'affected', on: '2026-08-08', value: 40 }] },
    { id: 'c', name: '3', treatment: 'x', dose: 1, void: 'mown', readings: [{ kind: 'affected', on: '2026-08-08', value: 90 }] },
  ],
}

it('draws the mean of the plots that count, by day', () => {
  expect(curves(trial)).toEqual([
    {
      key: '\u00000',
      untreated: true,
      points: [
        [0, 10],
        [7, 30],
      ],
    },
  ])
})

it('takes readings of a day, and leaves a plot out with a reason', async () => {
  const read: Schemas['TrialRead'] = { trial, site_name: 'Mill Ferry', zone_name: 'Play lawn', groups: [], cautions: ['few-plots'] }
  const asked = serves({
    'GET /me': { date_form: 'dmy', rights: ['answer-checks'], today: '2026-08-24' },
    'GET /trials/t': read,
    'POST /trials/t/readings': read,
    'PUT /trials/t/plots/a/void': read,
  })
  page(<TrialPage />, '/trials/t', '/trials/:trial')
  const save = await screen.findByRole<HTMLButtonElement>('button', { name: 'Save the readings' })
  expect(save.disabled).toBe(true)
  await userEvent.type(screen.getByLabelText('Plot 1'), '120')
  expect(screen.getByRole('alert').textContent).toBe('Enter 0 to 100.')
  await userEvent.clear(screen.getByLabelText('Plot 1'))
  await userEvent.type(screen.getByLabelText('Plot 1'), '25')
  await userEvent.click(save)
  await vi.waitFor(() =>
    expect(asked.find((a) => a.method === 'POST')?.body).toMatchObject({
      kind: 'affected',
      on: '2026-08-24',
      readings: [{ plot_id: 'a', value: 25 }],
    }),
  )
  await userEvent.click(screen.getAllByRole('button', { name: 'Leave it out' })[0] as HTMLElement)
  await userEvent.type(screen.getByLabelText('What happened to it'), 'flooded')
  await userEvent.click(screen.getByRole('button', { name: 'Leave plot 1 out' }))
  await vi.waitFor(() => expect(asked.find((a) => a.method === 'PUT')?.body).toEqual({ void: 'flooded' }))
})
