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

let ask: (() => Promise<unknown>) | undefined
/** How a page that was opened from what the device remembers gets its token before the first thing that it writes. */
export const askForToken = (f: () => Promise<unknown>): void => {
  ask = f
}
// what is asked before anybody is signed in
const withoutToken = /\/(sign-in|password-link)(\/|$)/

// asked of whatever fetch is at that moment: tests put a server of their own in its place
export const api = createClient<paths>({ baseUrl: '/api/v1', fetch: (r) => fetch(r) })
api.use({
  async onRequest({ request }) {
    if (request.method === 'GET') return request
    if (csrf === '' && ask && !withoutToken.test(new URL(request.url).pathname)) await ask().catch(() => undefined)
    request.headers.set('X-Hodos-Csrf', csrf)
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

/** Asks for what takes a while, and follows the lines in which the server tells how far it is. The last line is the answer. */
export async function followLines<L>(path: string, body: unknown, follow: (line: L) => void): Promise<L> {
  let r: Response
  try {
    r = await fetch(`/api/v1${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Hodos-Csrf': csrf },
      body: JSON.stringify(body),
    })
  } catch {
    throw new Unreachable()
  }
  if (!r.ok) throw refusedBy(r.status, await r.json().catch(() => undefined))
  const reader = r.body?.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  let last: L | undefined
  for (;;) {
    const piece = await reader?.read().catch(() => undefined)
    if (!piece || piece.done) break
    const lines = (rest + piece.value).split('\n')
    rest = lines.pop() ?? ''
    for (const line of lines) {
      last = JSON.parse(line) as L
      follow(last)
    }
  }
  if (last === undefined) throw new Unreachable()
  return last
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
