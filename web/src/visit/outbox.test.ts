import { describe, expect, it, vi } from 'vitest'
import { Refused, Unreachable, type Schemas } from '../api/client'
import { Outbox, type Waiting } from './outbox'

const item = (id: string, zone = 'z'): Waiting => ({ visit: 'v', zone, answer: { id, finding: 'pull-test', spot: 'worst', value: 'resists' as never, base: 0 } })
const scales = { seq: 1 } as Schemas['Scales']

function keeper() {
  const kept = new Map<string, string>()
  return { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v), kept }
}

const settled = () => new Promise((done) => setTimeout(done, 0))

describe('the outbox', () => {
  it('sends in the order of the taps and is empty after', async () => {
    const sent: string[] = []
    const k = keeper()
    const box = new Outbox({ read: () => Promise.resolve(scales), answer: (_v, _z, list) => { sent.push(...list.map((a) => a.id)); return Promise.resolve(scales) } }, k, () => undefined)
    box.put(item('a'))
    box.put(item('b'))
    box.put(item('c', 'other'))
    await settled()
    expect(sent).toEqual(['a', 'b', 'c'])
    expect(box.read().waiting).toEqual([])
    expect(JSON.parse(k.kept.get('hodos-outbox') ?? '')).toEqual([])
  })

  it('keeps what could not be sent, tries again, and survives a reload', async () => {
    const k = keeper()
    let up = false
    const door = { read: () => Promise.resolve(scales), answer: vi.fn(() => (up ? Promise.resolve(scales) : Promise.reject(new Unreachable()))) }
    let again: () => void = () => undefined
    const box = new Outbox(door, k, () => undefined, (f) => { again = f })
    box.put(item('a'))
    await settled()
    expect(box.read()).toMatchObject({ offline: true })
    expect(box.read().waiting).toHaveLength(1)
    const reloaded = new Outbox(door, k, () => undefined)
    expect(reloaded.read().waiting.map((w) => w.answer.id)).toEqual(['a'])
    up = true
    again()
    await settled()
    expect(box.read()).toMatchObject({ offline: false, waiting: [] })
  })

  it('names the one answer that is refused and saves the others', async () => {
    const taken: string[] = []
    const answer = (_v: string, _z: string, list: { id: string }[]) => {
      if (list.some((a) => a.id === 'bad')) return Promise.reject(new Refused(422, 'no', [{ field: 'answers[0].value', reason: 'outside the range' }]))
      taken.push(...list.map((a) => a.id))
      return Promise.resolve(scales)
    }
    const k = keeper()
    k.setItem('hodos-outbox', JSON.stringify([item('a'), item('bad'), item('c')]))
    const box = new Outbox({ read: () => Promise.resolve(scales), answer }, k, () => undefined)
    await box.flush()
    expect(taken).toEqual(['a', 'c'])
    expect(box.read().refused.map((r) => [r.item.answer.id, r.reason])).toEqual([['bad', 'outside the range']])
  })

  it('does not stumble over a spoilt store', () => {
    const k = keeper()
    k.setItem('hodos-outbox', '{not json')
    expect(new Outbox({ read: () => Promise.resolve(scales), answer: () => Promise.resolve(scales) }, k, () => undefined).read().waiting).toEqual([])
  })
})
