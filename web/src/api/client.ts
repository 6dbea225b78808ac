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
let owner = ''

/** Firm and person, as what a person leaves on a device is kept under. */
export const ownerOf = (me: { firm_id: string; person_id: string }): string => `${me.firm_id}/${me.person_id}`

/** Keeps the session's token and whose it is; without an argument nobody's. */
export function keepToken(me?: { csrf: string; firm_id: string; person_id: string }): void {
  csrf = me?.csrf ?? ''
  owner = me ? ownerOf(me) : ''
}
export const tokenOwner = (): string => owner

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

function refusedBy(status: number, problem: unknown): Refused {
  const p = (typeof problem === 'object' && problem !== null ? problem : {}) as Problem
  const fields = (p.errors ?? []).map((e) => ({ field: (e.location ?? '').replace(/^body\./, ''), reason: e.message ?? '' }))
  return new Refused(status, p.detail ?? p.title ?? `The server answered ${status}`, fields)
}

/** The last whole line of an answer that comes in line by line. */
export function lastLine(text: string): Schemas['Progress'] | undefined {
  const whole = text
    .slice(0, Math.max(0, text.lastIndexOf('\n')))
    .split('\n')
    .at(-1)
  return whole ? (JSON.parse(whole) as Schemas['Progress']) : undefined
}

/** Sends a plain file as it is and follows both ways: how much is sent, then how much of it is taken. */
export function sendFile(
  path: string,
  file: Blob,
  follow: { sent: (part: number) => void; taken: (p: Schemas['Progress']) => void },
): Promise<Schemas['Progress']> {
  return new Promise((resolve, reject) => {
    const x = new XMLHttpRequest()
    x.open('POST', `/api/v1${path}`)
    x.setRequestHeader('X-Hodos-Csrf', csrf)
    x.setRequestHeader('Content-Type', 'text/csv')
    x.upload.onprogress = (e) => {
      if (e.lengthComputable) follow.sent(e.loaded / e.total)
    }
    x.onprogress = () => {
      const p = x.status === 200 ? lastLine(x.responseText) : undefined
      if (p && !p.taken && !p.error) follow.taken(p)
    }
    x.onerror = () => reject(new Unreachable())
    x.onload = () => {
      if (x.status !== 200) {
        let problem: unknown
        try {
          problem = JSON.parse(x.responseText)
        } catch {
          problem = undefined
        }
        reject(refusedBy(x.status, problem))
        return
      }
      const p = lastLine(x.responseText)
      if (p?.taken) resolve(p)
      else reject(new Refused(500, p?.error ?? 'Connection lost before the upload finished. Nothing was saved.'))
    }
    x.send(file)
  })
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
  throw refusedBy(r.response.status, r.error)
}
