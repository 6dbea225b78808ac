import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it } from 'vitest'
import { Refused, Unreachable, type Schemas } from '../api/client'
import { DeviceKeeper, type Kept, type Keeper } from './kept'
import { Outbox, type Surroundings } from './outbox'

const item = (id: string, zone = 'z') => ({
  visit: 'v',
  zone,
  answer: { id, finding: 'pull-test', spot: 'worst', value: 'resists' as never, base: 0 } satisfies Schemas['NewAnswer'],
})
const scales = { seq: 1 } as Schemas['Scales']
let nth = 0
let device: DeviceKeeper
let reply: (ids: string[]) => unknown
let sent: string[][]
let session: string
let renewed: () => Promise<string>
let timers: (() => void)[]
let lock: Promise<unknown>

/** A tab of the device: its own box over the same kept answers and under the same lock. */
function tab(change: Partial<Surroundings> = {}): Outbox {
  return new Outbox({
    door: {
      read: () => Promise.resolve(scales),
      answer: async (_v, _z, list) => {
        const ids = list.map((a) => a.id)
        await new Promise((done) => setTimeout(done, 1))
        const said = reply(ids)
        if (said instanceof Error) throw said
        sent.push(ids)
        return scales
      },
    },
    keeper: device,
    session: () => session,
    renew: () => renewed(),
    onScales: () => undefined,
    alone: (f) => {
      const mine = lock.then(f)
      lock = mine.catch(() => undefined)
      return mine
    },
    tell: () => undefined,
    later: (f) => void timers.push(f),
    now: () => 1,
    ...change,
  })
}
const ids = (list: Kept[]) => list.map((k) => k.id)
const until = async (so: () => boolean) => {
  for (let i = 0; i < 300 && !so(); i++) await new Promise((done) => setTimeout(done, 2))
  expect(so()).toBe(true)
}
const stored = async (owner = 'f/tam') => ids(await device.of(owner))

beforeEach(() => {
  device = new DeviceKeeper(`device-${nth++}`)
  reply = () => scales
  sent = []
  session = 'f/tam'
  renewed = () => Promise.resolve(session)
  timers = []
  lock = Promise.resolve()
})

describe('the outbox', () => {
  it('sends in the order of the taps, a zone at a time, and is empty after', async () => {
    const box = tab()
    await box.open('f/tam')
    for (const k of [item('b'), item('a'), item('c', 'other')]) box.put(k)
    await until(() => sent.flat().length === 3 && box.read().waiting.length === 0)
    expect(sent.flat()).toEqual(['b', 'a', 'c'])
    expect(await stored()).toEqual([])
  })

  it('keeps what could not be sent, and sends it after a pause, after a reload and on the next sign-in', async () => {
    reply = () => new Unreachable()
    const box = tab()
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => box.read().trouble === 'offline')
    expect(await stored()).toEqual(['a'])
    expect(timers).toHaveLength(1)
    timers[0]?.()
    await until(() => timers.length === 2)
    reply = () => scales
    const reloaded = tab()
    await reloaded.open('f/tam')
    expect(sent).toEqual([['a']])
    expect(await stored()).toEqual([])
    await box.reread()
    expect(box.read()).toMatchObject({ waiting: [], trouble: '' })
  })

  it.each([408, 425, 429, 500, 502, 503, 404, 409])('throws nothing away on %i', async (status) => {
    reply = () => new Refused(status, 'no')
    const box = tab()
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => box.read().trouble !== '')
    expect(await stored()).toEqual(['a'])
    expect(box.read().refused).toEqual([])
    reply = () => scales
    timers[0]?.()
    await until(() => box.read().waiting.length === 0)
    expect(sent).toEqual([['a']])
  })

  it('does not let one visit that is gone hold back the others', async () => {
    reply = (list) => (list.includes('gone') ? new Refused(404, 'there is no such visit') : scales)
    const box = tab()
    await box.open('f/tam')
    box.put(item('gone', 'old'))
    box.put(item('a'))
    await until(() => sent.length === 1 && box.read().trouble === 'held')
    expect(box.read().reason).toBe('there is no such visit')
    expect(ids(box.read().waiting)).toEqual(['gone'])
    await box.dismiss(box.read().waiting)
    expect(await stored()).toEqual([])
  })

  it('keeps a refusal with its reason over a reload until it has been read, and saves the others', async () => {
    reply = () => new Unreachable()
    const box = tab()
    await box.open('f/tam')
    for (const id of ['a', 'bad', 'c']) box.put(item(id))
    await until(() => box.read().trouble === 'offline')
    reply = (list) => (list.includes('bad') ? new Refused(422, 'no', [{ field: 'answers[0].value', reason: 'outside the range' }]) : scales)
    await box.flush()
    expect(sent).toEqual([['a'], ['c']])
    const reloaded = tab()
    await reloaded.open('f/tam')
    expect(reloaded.read().refused.map((k) => [k.id, k.refused])).toEqual([['bad', 'outside the range']])
    await reloaded.dismiss(reloaded.read().refused)
    expect(await stored()).toEqual([])
  })

  it('asks to sign in on 401 and sends when that is done', async () => {
    reply = () => new Refused(401, 'the session is over')
    const box = tab()
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => box.read().trouble === 'sign-in')
    expect(timers).toEqual([])
    reply = () => scales
    await box.open('f/tam')
    expect(sent).toEqual([['a']])
  })

  it('renews the token once on 403; a right that is missing keeps the answer', async () => {
    let token = 'old'
    renewed = () => {
      token = 'new'
      return Promise.resolve('f/tam')
    }
    reply = () => (token === 'old' ? new Refused(403, "the request does not carry the session's token") : scales)
    const box = tab()
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => sent.length === 1)
    reply = () => new Refused(403, 'the role office may not do this')
    box.put(item('b'))
    await until(() => box.read().trouble === 'held')
    expect(await stored()).toEqual(['b'])
  })

  it("never sends one person's answers in another's session", async () => {
    reply = () => new Unreachable()
    const box = tab()
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => box.read().trouble === 'offline')
    reply = () => scales
    session = 'f/rufus' // another has signed in; this tab does not know it yet
    timers[0]?.()
    await until(() => box.read().trouble === 'other-person')
    await box.open('f/rufus')
    expect(box.read().waiting).toEqual([])
    box.put(item('r'))
    await until(() => sent.length === 1)
    expect(sent).toEqual([['r']])
    expect(await stored()).toEqual(['a'])
    session = 'f/tam'
    await box.open('f/tam')
    expect(sent).toEqual([['r'], ['a']])
  })

  it("lets one tab send at a time and loses no tab's answer", async () => {
    const [one, two] = [tab(), tab()]
    let inside = 0
    reply = () => {
      expect(++inside).toBe(1)
      inside--
      return scales
    }
    await Promise.all([one.open('f/tam'), two.open('f/tam')])
    for (let i = 0; i < 6; i++) (i % 2 ? one : two).put(item(`k${i}`))
    await until(() => sent.flat().length >= 6)
    await until(() => one.read().waiting.length + two.read().waiting.length === 0)
    expect([...new Set(sent.flat())].sort()).toEqual(['k0', 'k1', 'k2', 'k3', 'k4', 'k5'])
    expect(sent.flat()).toHaveLength(6)
    expect(await stored()).toEqual([])
  })

  it('says so where nothing can be kept, and still sends', async () => {
    const broken: Keeper = {
      of: () => Promise.reject(new Error('no')),
      put: () => Promise.reject(new Error('no')),
      drop: () => Promise.reject(new Error('no')),
    }
    reply = () => new Unreachable()
    const box = tab({ keeper: broken })
    await box.open('f/tam')
    box.put(item('a'))
    await until(() => box.read().trouble === 'offline')
    expect(box.read()).toMatchObject({ unsafe: true })
    expect(ids(box.read().waiting)).toEqual(['a'])
    reply = () => scales
    await box.flush()
    expect(sent).toEqual([['a']])
    expect(box.read().waiting).toEqual([])
  })
})
