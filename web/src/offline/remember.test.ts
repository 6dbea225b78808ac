import 'fake-indexeddb/auto'
import { QueryClient } from '@tanstack/react-query'
import { describe, expect, it } from 'vitest'
import { Memory } from './remember'

const me = { firm_id: 'f', person_id: 'p', name: 'Tam', csrf: 'secret' }
const settle = () => new Promise((done) => setTimeout(done, 450))

async function kept(name: string) {
  const client = new QueryClient()
  const memory = new Memory(client, name)
  memory.watch()
  client.setQueryData(['me'], me)
  client.setQueryData(['day', false], { due: [] })
  client.setQueryData(['prices'], { n: 1 })
  await settle()
  return memory
}

describe('what a device remembers', () => {
  it('is what a day needs, without the token, and is asked for anew when it is used', async () => {
    await kept('one')
    const later = new QueryClient()
    await new Memory(later, 'one').recall()
    expect(later.getQueryData(['me'])).toEqual({ ...me, csrf: '' })
    expect(later.getQueryData(['day', false])).toEqual({ due: [] })
    expect(later.getQueryData(['prices'])).toBeUndefined()
    expect(later.getQueryState(['day', false])?.dataUpdatedAt).toBe(1)
  })
  it('is gone after a day and a night', async () => {
    await kept('two')
    const later = new QueryClient()
    await new Memory(later, 'two').recall(Date.now() + 37 * 3600 * 1000)
    expect(later.getQueryData(['me'])).toBeUndefined()
    const again = new QueryClient()
    await new Memory(again, 'two').recall()
    expect(again.getQueryData(['me'])).toBeUndefined()
  })
  it('is nothing once nobody is signed in', async () => {
    const memory = await kept('three')
    await memory.forget()
    const later = new QueryClient()
    await new Memory(later, 'three').recall()
    expect(later.getQueryData(['day', false])).toBeUndefined()
  })
})
