import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** What a refused request says: one line, and a reason for each field that was at fault. */
export class Refused extends Error {
  readonly status: number
  readonly fields: { field: string; reason: string }[]
  constructor(status: number, message: string, fields: { field: string; reason: string }[] = []) {
    super(message)
    this.status = status
    this.fields = fields
  }
}

/** The server cannot be reached: what was to be sent stays where it is. */
export class Unreachable extends Error {
  constructor() {
    super('No connection to the server')
  }
}

let csrf = ''
export function keepToken(token: string): void {
  csrf = token
}

export const api = createClient<paths>({ baseUrl: '/api/v1' })
api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-Hodos-Csrf', csrf)
    return request
  },
})

interface Problem {
  title?: string
  detail?: string
  errors?: { location?: string; message?: string }[]
}

interface Reply<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Takes the answer out of a reply, or throws what was wrong with the request. */
export async function got<T>(reply: Promise<Reply<T>>): Promise<T> {
  let r: Reply<T>
  try {
    r = await reply
  } catch {
    throw new Unreachable()
  }
  if (r.response.ok) return r.data as T
  const p = (typeof r.error === 'object' && r.error !== null ? r.error : {}) as Problem
  const fields = (p.errors ?? []).map((e) => ({ field: (e.location ?? '').replace(/^body\./, ''), reason: e.message ?? '' }))
  throw new Refused(r.response.status, p.detail ?? p.title ?? `The server answered ${r.response.status}`, fields)
}
