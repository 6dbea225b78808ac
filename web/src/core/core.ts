import type { Schemas } from '../api/client'

/** What is answered beside what the case knows; a value of null takes an answer back. */
export type Beside = Pick<Schemas['NewAnswer'], 'finding' | 'spot' | 'tally'> & { value?: unknown }

let worker: Worker | undefined
let last = 0
const waiting = new Map<number, (answer: string) => void>()

function started(): Worker {
  if (worker) return worker
  const w = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  w.onmessage = (e: MessageEvent<{ id: number; answer: string }>) => {
    waiting.get(e.data.id)?.(e.data.answer)
    waiting.delete(e.data.id)
  }
  w.onerror = () => {
    // it is started anew for the next question
    worker = undefined
    taken.clear()
    for (const tell of waiting.values()) tell('{"error":"the core has stopped"}')
    waiting.clear()
  }
  worker = w
  return w
}

async function ask<T>(what: string, ...args: string[]): Promise<T> {
  const answer = await new Promise<string>((done) => {
    const id = ++last
    waiting.set(id, done)
    started().postMessage({ id, ask: what, with: args })
  })
  const out = JSON.parse(answer) as T & { error?: string }
  if (out.error !== undefined) throw new Error(out.error)
  return out
}

// which text of a case the worker holds under a key
const taken = new Map<string, string>()

/** What a case file comes to with some answers more: the same as the server says, worked out on this device. */
export async function weighHere(key: string, file: string, system: string, answers: Beside[]): Promise<Schemas['Result']> {
  if (taken.get(key) !== file) {
    await ask('hodosTake', key, file, system)
    taken.set(key, file)
  }
  return ask<Schemas['Result']>('hodosWeigh', key, JSON.stringify(answers))
}

/** Starts the core before it is needed: the first question of all takes ten times as long as the next. */
export const warmUp = (key: string, file: string, system: string) => weighHere(key, file, system, []).catch(() => undefined)
