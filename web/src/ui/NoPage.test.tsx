// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import { MemoryRouter, Route, Routes } from 'react-router'
import { Addressed } from './NoPage'

afterEach(cleanup)

const visit = '01a03111-1c00-7000-8000-000000000226'
const at = (path: string) =>
  render(
    <MemoryRouter initialEntries={[path]}>
      <Routes>
        <Route element={<Addressed ids={['visit', 'zone']} />}>
          <Route path="/visits/:visit" element={<p>the visit</p>} />
          <Route path="/visits/:visit/:zone" element={<p>the visit</p>} />
        </Route>
      </Routes>
    </MemoryRouter>,
  )

it('leads to what the address names', () => {
  at(`/visits/${visit}`)
  expect(screen.getByText('the visit')).toBeDefined()
})

it.each([`/visits/${visit}/record`, '/visits/12', `/visits/${visit.replace('-', '')}`])('says of %s that no page is there', (path) => {
  at(path)
  expect(screen.queryByText('the visit')).toBeNull()
  expect(screen.getByRole('link', { name: 'To the day' })).toBeDefined()
})
