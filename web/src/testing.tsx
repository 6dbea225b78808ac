// What component tests share: a page around a part of it, and a server that says what it is told to.
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { render } from '@testing-library/react'
import type { ReactNode } from 'react'
import { MemoryRouter, Route, Routes } from 'react-router'
import { vi } from 'vitest'

export interface Asked {
  method: string
  path: string
  body: unknown
}

/** Lets the server answer by method and path; what it was asked is listed. An answer with a status of its own is {status, body}. */
export function serves(answers: Record<string, unknown>): Asked[] {
  const asked: Asked[] = []
  vi.stubGlobal(
    'fetch',
    vi.fn(async (request: Request) => {
      const path = new URL(request.url).pathname.replace('/api/v1', '')
      const text = request.method === 'GET' ? '' : await request.text()
      asked.push({ method: request.method, path, body: text ? (JSON.parse(text) as unknown) : undefined })
      const key = Object.keys(answers).find((k) => {
        const [method, where = ''] = k.split(' ')
        return method === request.method && new RegExp(`^${where}$`).test(path)
      })
      if (!key) return new Response(JSON.stringify({ title: 'Not Found', status: 404 }), { status: 404 })
      const a = answers[key] as { status?: number; body?: unknown }
      const [status, body] = typeof a.status === 'number' && 'body' in a ? [a.status, a.body] : [200, a]
      return new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
    }),
  )
  return asked
}

/** Draws a part of a page, at an address where it reads one: at '/for/abc' by the pattern '/for/:token'. */
export function page(part: ReactNode, at = '/', pattern = '*') {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path={pattern} element={part} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  )
}
