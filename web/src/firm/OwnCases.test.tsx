// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { page, serves } from '../testing'
import { savedSaid, wateredSaid } from './Looked'
import { OwnCases } from './OwnCases'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const lesson = (cause: string, left_out = false): Schemas['Lesson'] => ({
  cause,
  label: cause === 'rust' ? 'Rust' : 'Red thread',
  seen: 9,
  expected: 3.1,
  factor: 1.45,
  low: 0.9,
  high: 2.1,
  left_out,
})

const lessons = (more: Partial<Schemas['Lessons']>): Schemas['Lessons'] => ({
  used: false,
  cases: 40,
  least: 20,
  lessons: [lesson('red-thread'), lesson('rust', true)],
  version: 3,
  ...more,
})

it('says how many cases are missing yet, and where there is nothing to learn', async () => {
  serves({ 'GET /figures/lessons': lessons({ cases: 7, lessons: [] }) })
  page(<OwnCases may />)
  await screen.findByText(/From 20 closed cases on.*So far you have 7\./s)
  cleanup()
  serves({ 'GET /figures/lessons': lessons({ lessons: [] }) })
  page(<OwnCases may />)
  await screen.findByText(/much like the tables expect/)
})

it('is used only when the owner says so, cause by cause', async () => {
  const put: Schemas['LessonsUse'][] = []
  serves({ 'GET /figures/lessons': lessons({}) })
  const served = globalThis.fetch
  vi.stubGlobal('fetch', async (r: Request) => {
    if (r.method !== 'PUT') return served(r)
    const body = (await r.clone().json()) as Schemas['LessonsUse']
    put.push(body)
    return Response.json(
      lessons({
        used: body.used,
        version: body.version + 1,
        lessons: [lesson('red-thread', body.without.includes('red-thread')), lesson('rust', body.without.includes('rust'))],
      }),
    )
  })
  page(<OwnCases may />)
  await screen.findByText('Your 40 closed cases differ from the tables. The scales do not use that yet.')
  expect(screen.getAllByText('9 cases, the tables expect 3.1')).toHaveLength(2)
  expect(
    screen.getAllByText('1.4 times the odds (0.9 to 2.1)').length + screen.queryAllByText('1.5 times the odds (0.9 to 2.1)').length,
  ).toBe(2)
  await userEvent.click(screen.getByRole('button', { name: 'Use them in the scales' }))
  await screen.findByText(/The scales use what your 40 closed cases say/)
  expect(put[0]).toEqual({ used: true, without: ['rust'], version: 3 })
  await userEvent.click(screen.getByRole('checkbox', { name: 'Rust' }))
  await waitFor(() => expect(put[1]).toEqual({ used: true, without: [], version: 4 }))
  await waitFor(() => expect(screen.getByRole<HTMLInputElement>('checkbox', { name: 'Red thread' }).disabled).toBe(false))
  await userEvent.click(screen.getByRole('checkbox', { name: 'Red thread' }))
  await waitFor(() => expect(put[2]).toEqual({ used: true, without: ['red-thread'], version: 5 }))
  await userEvent.click(await screen.findByRole('button', { name: 'Stop using them' }))
  await waitFor(() => expect(put[3]?.used).toBe(false))
})

it('leaves it to the owner', async () => {
  serves({ 'GET /figures/lessons': lessons({}) })
  page(<OwnCases may={false} />)
  expect((await screen.findByRole<HTMLInputElement>('checkbox', { name: 'Rust' })).disabled).toBe(true)
  expect(screen.queryByRole('button')).toBeNull()
})

it('says what looking back says of one case', () => {
  expect(savedSaid(52.6, 'USD')).toBe('checking saved 53 USD')
  expect(savedSaid(-12.2, 'EUR')).toBe('checking lost 12 EUR')
  const c = { water_given_mm: 100, water_asked_mm: 80 } as Schemas['FirmCase']
  expect(wateredSaid(c, 'metric')).toBe('; given 100 mm, needed 80 mm in four weeks')
  expect(wateredSaid({} as Schemas['FirmCase'], 'metric')).toBe('')
})
