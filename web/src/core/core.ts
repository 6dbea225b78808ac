import type { Schemas } from '../api/client'

/** What is answered beside what the case knows; a value of null takes an answer back. */
export type Beside = Pick<Schemas['NewAnswer'], 'finding' | 'spot' | 'tally'> & { value?: unknown }

let worker: Worker | undefined
let last = 0
interface Answer {
  id: number
  answer: string
  mask?: Uint8Array
  jpeg?: Blob
}
const waiting = new Map<number, (a: Answer) => void>()

function started(): Worker {
  if (worker) return worker
  const w = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
  w.onmessage = (e: MessageEvent<Answer>) => {
    waiting.get(e.data.id)?.(e.data)
    waiting.delete(e.data.id)
  }
  w.onerror = () => {
    // it is started anew for the next question
    worker = undefined
    taken.clear()
    for (const [id, tell] of waiting) tell({ id, answer: '{"error":"the core has stopped"}' })
    waiting.clear()
  }
  worker = w
  return w
}

async function askFor(what: string, args: (string | number)[], picture?: Blob | ImageBitmap): Promise<Answer & { said: unknown }> {
  const asked = performance.now()
  const answer = await new Promise<Answer>((done) => {
    const id = ++last
    waiting.set(id, done)
    started().postMessage({ id, ask: what, with: args, picture }, picture instanceof Blob || !picture ? [] : [picture])
  })
  const said = JSON.parse(answer.answer) as { error?: unknown }
  // the last of each kind stands in the browser's own timeline
  performance.clearMeasures(what)
  performance.measure(what, { start: asked })
  if (typeof said.error === 'string') throw new Error(said.error)
  return { ...answer, said }
}

const ask = async <T>(what: string, ...args: (string | number)[]): Promise<T> => (await askFor(what, args)).said as T

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

/** What the damage marked on a zone comes to, worked out on this device. */
export const patternHere = (zone: Schemas['StepGrid'], cells: Schemas['DamagedCells']) =>
  ask<Schemas['PatternRead']>('hodosPattern', JSON.stringify(zone), JSON.stringify(cells))

/** What a count says, held against a limit, worked out on this device. */
export const countHere = (finding: string, tally: Schemas['Tally'], limit: number) =>
  ask<Schemas['Weighed']>('hodosCount', finding, JSON.stringify(tally), limit)

/** Starts the core before it is needed: the first question of all takes ten times as long as the next. */
export const warmUp = (key: string, file: string, system: string) => weighHere(key, file, system, []).catch(() => undefined)

/** By what a picture is measured. */
export type PhotoWanted = Schemas['PhotoWanted'] & { tilt?: number }

/** What the core sees in a picture. */
export interface Seen {
  cover: number
  uncertain: number
  index: number
  faults: string[]
  card?: string
}

/** Takes a picture in hand: the next measurements are of it. */
export async function takePicture(picture: Blob | ImageBitmap): Promise<{ width: number; height: number; jpeg: Blob }> {
  const { said, jpeg } = await askFor('picture', [], picture)
  if (!jpeg) throw new Error('the core has stopped')
  return { ...(said as { width: number; height: number }), jpeg }
}

/** Measures the picture in hand; the mask has a byte a pixel, 1 where it counts. */
export async function measurePicture(wanted: PhotoWanted): Promise<{ seen: Seen; mask: Uint8Array }> {
  const { said, mask } = await askFor('photo', [JSON.stringify(wanted)])
  return { seen: said as Seen, mask: mask ?? new Uint8Array() }
}
