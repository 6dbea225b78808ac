import { beforeEach, describe, expect, it } from 'vitest'
import { Refused, Unreachable } from '../api/client'
import { base64 } from './base64'
import { Queue, type QueueKeeper, type Waiting } from './queue'

interface Thing extends Waiting {
  says: string
}
const thing = (id: string) => ({ id, says: id.toUpperCase() })

let kept: Map<string, Thing>
let sent: string[]
let owner: string
let token: string
let renewed: number
let fails: unknown
let full: boolean

const keeper: QueueKeeper<Thing> = {
  of: (o) => Promise.resolve([...kept.values()].filter((p) => p.owner === o)),
  put: (p) => {
    if (full) return Promise.reject(new Error('full'))
    kept.set(p.id, p)
    return Promise.resolve()
  },
  remove: (id) => Promise.resolve(void kept.delete(id)),
}

const queue = () =>
  new Queue<Thing>({
    keeper,
    owner: () => owner,
    session: () => token,
    renew: () => {
      renewed += 1
      return fails instanceof Unreachable ? Promise.reject(fails) : Promise.resolve((token = owner))
    },
    send: (p) => {
      if (fails) return Promise.reject(fails instanceof Error ? fails : new Error())
      sent.push(`${p.id} ${p.says}`)
      return Promise.resolve()
    },
    onSent: () => Promise.resolve(),
  })

beforeEach(() => {
  kept = new Map()
  sent = []
  owner = token = 'firm/tam'
  renewed = 0
  fails = undefined
  full = false
})

describe('what waits', () => {
  it('are kept first, sent, and then gone from the device', async () => {
    const q = queue()
    await q.put(thing('a'))
    expect(kept.size).toBe(1)
    await q.flush()
    expect(sent).toEqual(['a A'])
    expect(kept.size).toBe(0)
    expect(q.read().waiting).toEqual([])
  })
  it('stay without a connection and go out in their order when it is back', async () => {
    const q = queue()
    fails = new Unreachable()
    await q.put(thing('a'))
    await q.flush()
    await q.put(thing('b'))
    await q.flush()
    expect(q.read()).toMatchObject({ offline: true })
    expect(kept.size).toBe(2)
    fails = undefined
    await queue().flush() // another page of the same device
    expect(sent.map((s) => s[0])).toEqual(['a', 'b'])
  })
  it('that are refused stay with the reason until they are put away, and hold nothing up', async () => {
    const q = queue()
    fails = new Refused(422, 'no', [{ field: 'picture', reason: 'is broken' }])
    await q.put(thing('a'))
    await q.flush()
    expect(q.read().waiting[0]?.refused).toBe('is broken')
    fails = undefined
    await q.put(thing('b'))
    await q.flush()
    expect(sent).toHaveLength(1)
    await q.dismiss('a')
    expect(q.read().waiting).toEqual([])
  })
  it('wait while one is signed out or the server is busy', async () => {
    for (const status of [401, 403, 429, 503]) {
      fails = new Refused(status, '')
      const q = queue()
      await q.put(thing(String(status)))
      await q.flush()
      expect(q.read().waiting.every((p) => p.refused === undefined)).toBe(true)
    }
    expect(kept.size).toBe(4)
  })
  it('are never sent by somebody else', async () => {
    const q = queue()
    fails = new Unreachable()
    await q.put(thing('a'))
    await q.flush()
    fails = undefined
    owner = token = 'firm/rufus'
    await q.flush()
    expect(sent).toEqual([])
    expect(q.read().waiting).toEqual([])
    owner = 'firm/tam'
    await q.flush()
    expect(sent).toHaveLength(1)
  })
  it('made without a token, are sent in the session that the server says is theirs', async () => {
    token = ''
    fails = new Unreachable()
    const q = queue()
    await q.put(thing('a'))
    await q.flush()
    expect(kept.get('a')?.owner).toBe('firm/tam')
    expect(q.read().offline).toBe(true)
    fails = undefined
    await q.flush()
    expect(sent).toEqual(['a A'])
    expect(renewed).toBe(2)
  })
  it('renews a token that was not taken, once', async () => {
    fails = new Refused(403, '')
    const q = queue()
    await q.put(thing('a'))
    await q.flush()
    expect(renewed).toBe(0)
    fails = undefined
    await q.flush()
    expect(renewed).toBe(1)
    await q.put(thing('b'))
    await q.flush()
    expect(renewed).toBe(1)
    expect(sent).toEqual(['a A', 'b B'])
  })
  it('are held by the page where the device has no room, and say so', async () => {
    full = true
    fails = new Unreachable()
    const q = queue()
    await q.put(thing('a'))
    await q.flush()
    expect(q.read()).toMatchObject({ unsafe: true })
    expect(q.read().waiting).toHaveLength(1)
    fails = undefined
    await q.flush()
    expect(sent).toHaveLength(1)
    expect(q.read().waiting).toEqual([])
  })
})

it('writes a file as text', async () => {
  const bytes = new Uint8Array(70_000).map((_, i) => i % 256)
  expect(atob(await base64(new Blob([bytes]))).length).toBe(70_000)
})
