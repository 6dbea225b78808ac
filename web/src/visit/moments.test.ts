import { describe, expect, it } from 'vitest'
import { Refused, Unreachable } from '../api/client'
import { Moments, type Moment } from './moments'

function device() {
  const kept = new Map<string, string>()
  return { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) }
}
const moment = (what: Moment['what'], owner = 'f/p'): Moment => ({ owner, visit: 'v', what, at: '2026-08-24T09:00:00Z' })

describe('arrivals and leavings without a connection', () => {
  it('outlive the page, and go out in order, the leaving after the answers', async () => {
    const store = device()
    const first = new Moments(store)
    first.keep(moment('arrive'))
    first.keep(moment('leave'))
    const told: string[] = []
    const later = new Moments(store, (m) => Promise.resolve(told.push(m.what)))
    expect(await later.send('f/p', true)).toBe(true)
    expect(told).toEqual(['arrive'])
    expect(await later.send('f/p', false)).toBe(true)
    expect(told).toEqual(['arrive', 'leave'])
    expect(new Moments(store).read()).toEqual([])
  })
  it('wait while nobody can be reached, and are never told in another name', async () => {
    const m = new Moments(device(), () => Promise.reject(new Unreachable()))
    m.keep(moment('arrive'))
    expect(await m.send('f/p', false)).toBe(false)
    expect(await m.send('f/other', false)).toBe(false)
    expect(m.read()).toHaveLength(1)
  })
  it('are given up when the server will not take them, and kept when nobody is signed in', async () => {
    let status = 401
    const m = new Moments(device(), () => Promise.reject(new Refused(status, 'no')))
    m.keep(moment('leave'))
    await m.send('f/p', false)
    expect(m.read()).toHaveLength(1)
    status = 422
    expect(await m.send('f/p', false)).toBe(true)
    expect(m.read()).toEqual([])
  })
  it('come from this device alone', () => {
    expect(new Moments({ getItem: () => '{"a":1}', setItem: () => undefined }).read()).toEqual([])
    expect(new Moments({ getItem: () => 'no', setItem: () => undefined }).read()).toEqual([])
    expect(new Moments({ getItem: () => '[{"owner":"a"},null]', setItem: () => undefined }).read()).toEqual([])
  })
})
