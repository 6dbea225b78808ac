import { afterEach, describe, expect, it, vi } from 'vitest'
import { keepToken, lastLine, Refused, sendFile, Unreachable } from './client'

/** A request that the test answers by hand. */
class Request {
  static last: Request
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void } = {}
  onprogress?: () => void
  onload?: () => void
  onerror?: () => void
  status = 0
  responseText = ''
  headers: Record<string, string> = {}
  opened: string[] = []
  sent: unknown
  constructor() {
    Request.last = this
  }
  open(method: string, path: string) {
    this.opened = [method, path]
  }
  setRequestHeader(name: string, value: string) {
    this.headers[name] = value
  }
  send(body: unknown) {
    this.sent = body
  }
}

const line = (over: object) => `${JSON.stringify({ done: 0, of: 10, lines: 20, taken: false, ...over })}\n`

function sending() {
  vi.stubGlobal('XMLHttpRequest', Request)
  const seen: (number | string)[] = []
  const promise = sendFile('/sites/s/weather', new Blob(['x']), {
    sent: (part) => seen.push(part),
    taken: (p) => seen.push(`${p.done} of ${p.of}`),
  })
  return { promise, seen, request: Request.last }
}

afterEach(() => vi.unstubAllGlobals())

describe('a file that is sent', () => {
  it('carries the token and is followed both ways', async () => {
    keepToken({ csrf: 't0ken', firm_id: 'f', person_id: 'p' })
    const { promise, seen, request } = sending()
    expect(request.opened).toEqual(['POST', '/api/v1/sites/s/weather'])
    expect(request.headers['X-Hodos-Csrf']).toBe('t0ken')
    request.upload.onprogress?.({ lengthComputable: true, loaded: 1, total: 4 })
    request.upload.onprogress?.({ lengthComputable: false, loaded: 1, total: 0 })
    request.status = 200
    request.responseText = line({ done: 5 })
    request.onprogress?.()
    request.responseText += line({ done: 10, taken: true, flags: ['odd'] })
    request.onprogress?.()
    request.onload?.()
    expect((await promise).flags).toEqual(['odd'])
    expect(seen).toEqual([0.25, '5 of 10'])
  })
  it('says what was refused, line by line', async () => {
    const { promise, request } = sending()
    request.status = 422
    request.responseText = JSON.stringify({ detail: 'nothing of it was taken', errors: [{ location: 'file', message: 'line 3: is odd' }] })
    request.onload?.()
    const e = await promise.catch((x: unknown) => x)
    expect(e).toBeInstanceOf(Refused)
    expect((e as Refused).fields).toEqual([{ field: 'file', reason: 'line 3: is odd' }])
  })
  it('is not taken when the answer breaks off or ends with an error', async () => {
    for (const text of [line({ done: 5 }), line({ error: 'the database is gone' }), '']) {
      const { promise, request } = sending()
      request.status = 200
      request.responseText = text
      request.onload?.()
      await expect(promise).rejects.toThrow(text.includes('gone') ? 'the database is gone' : 'Nothing was saved')
    }
  })
  it('tells a lost connection and an answer that is no answer', async () => {
    const lost = sending()
    lost.request.onerror?.()
    await expect(lost.promise).rejects.toBeInstanceOf(Unreachable)
    const odd = sending()
    odd.request.status = 502
    odd.request.responseText = '<html>'
    odd.request.onload?.()
    await expect(odd.promise).rejects.toThrow('The server answered 502')
  })
})

it('reads the last whole line of an answer that is still coming in', () => {
  expect(lastLine('')).toBeUndefined()
  expect(lastLine('{"done":1')).toBeUndefined()
  expect(lastLine(`${line({ done: 1 })}${line({ done: 2 })}{"do`)?.done).toBe(2)
})
