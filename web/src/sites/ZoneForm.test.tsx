// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { page } from '../testing'
import { ZoneForm } from './ZoneForm'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

const species = [
  { id: 'tall-fescue', label: 'Tall fescue', latin: '', family: 'cool', forms: [] },
  { id: 'zoysiagrass', label: 'Zoysiagrass', latin: '', family: 'warm', forms: [{ id: 'matrella', label: 'Manila grass (matrella)' }] },
]
const words = { raw: { species }, species: new Map(species.map((s) => [s.id, s])) } as unknown as Words
const me = { unit_system: 'metric' } as Schemas['Me']
const zone = {
  id: 'z',
  site_id: 's',
  name: 'Back lawn',
  area_m2: 100,
  area_error: 0.1,
  species: ['zoysiagrass'],
  form: 'matrella',
  cultivar: 'Hollin Fine',
  sown_year: 2019,
  texture: '',
  target_cover: 0.9,
  policy: { service: 'weeds' },
  version: 3,
} as Schemas['Zone']

it('asks for the kind where the grass has kinds, and keeps what is known of it', async () => {
  const sent: Schemas['Zone'][] = []
  vi.stubGlobal('fetch', async (r: Request) => {
    sent.push((await r.clone().json()) as Schemas['Zone'])
    return Response.json(zone)
  })
  const done = vi.fn()
  page(<ZoneForm zone={zone} site="s" me={me} words={words} onDone={done} />)
  expect(screen.getByRole<HTMLSelectElement>('combobox', { name: /Which kind/ }).value).toBe('matrella')
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: /Cultivar/ }).value).toBe('Hollin Fine')
  await userEvent.clear(screen.getByRole('textbox', { name: /Sown/ }))
  await userEvent.selectOptions(screen.getByRole('combobox', { name: /Service/ }), 'feeding')
  await userEvent.click(screen.getByRole('button', { name: /Save/ }))
  await waitFor(() => expect(done).toHaveBeenCalled())
  expect(sent[0]).toMatchObject({ form: 'matrella', cultivar: 'Hollin Fine', policy: { service: 'feeding' } })
  expect(sent[0]?.sown_year).toBeUndefined()

  await userEvent.selectOptions(screen.getByRole('combobox', { name: /Main grass/ }), 'tall-fescue')
  expect(screen.queryByRole('combobox', { name: /Which kind/ })).toBeNull()
  await userEvent.click(screen.getByRole('button', { name: /Save/ }))
  await waitFor(() => expect(sent).toHaveLength(2))
  expect(sent[1]?.form).toBeUndefined()
})
