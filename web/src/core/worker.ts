// The core, in a worker of the page: one message a question, one JSON text an answer. Pictures are turned upright, reduced and kept
// here, so that
// the page stays free for the finger.
import './wasm_exec.js'
import address from './core.wasm?url'
import { reduced, type Reduced } from '../photo/reduce'

interface Question {
  id: number
  ask: 'hodosTake' | 'hodosWeigh' | 'hodosPattern' | 'hodosCount' | 'picture' | 'photo'
  with: (string | number)[]
  picture?: Blob | ImageBitmap
}

declare class Go {
  importObject: WebAssembly.Imports
  run(instance: WebAssembly.Instance): Promise<void>
}

type Ask = (...args: (string | number)[]) => string | undefined

interface Functions {
  hodosTake: Ask
  hodosWeigh: Ask
  hodosPattern: Ask
  hodosCount: Ask
  hodosPhoto: (pixels: Uint8ClampedArray, width: number, height: number, wanted: string, mask: Uint8Array) => string | undefined
}
const functions = globalThis as unknown as Functions
const stopped = '{"error":"the core has stopped"}'

async function start() {
  const go = new Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(address), go.importObject)
  void go.run(instance)
}
const started = start()
let held: Reduced | undefined

/** Takes a picture in hand; says how large it is, and gives it back as a JPEG without anything but its pixels. */
async function take(q: Question) {
  if (!q.picture) throw new Error('no picture')
  held = await reduced(q.picture)
  const { width, height } = held.pixels
  return { id: q.id, answer: JSON.stringify({ width, height }), jpeg: held.jpeg }
}

/** Measures the picture in hand; the mask has a byte a pixel. */
function measure(q: Question) {
  if (!held) throw new Error('no picture')
  const { width, height, data } = held.pixels
  const mask = new Uint8Array(width * height)
  const answer = functions.hodosPhoto(data, width, height, String(q.with[0] ?? ''), mask) ?? stopped
  return { id: q.id, answer, mask }
}

async function answerTo(q: Question): Promise<{ id: number; answer: string; mask?: Uint8Array; jpeg?: Blob }> {
  try {
    if (q.ask === 'picture') return await take(q)
    await started
    if (q.ask === 'photo') return measure(q)
    return { id: q.id, answer: functions[q.ask](...q.with) ?? stopped }
  } catch (wrong) {
    return { id: q.id, answer: JSON.stringify({ error: wrong instanceof Error ? wrong.message : String(wrong) }) }
  }
}

onmessage = (e: MessageEvent<Question>) => {
  void answerTo(e.data).then((a) => postMessage(a, { transfer: a.mask ? [a.mask.buffer] : [] }))
}
