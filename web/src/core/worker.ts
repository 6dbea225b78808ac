// The core, in a worker of the page: one message a question, one JSON text an answer.
import './wasm_exec.js'
import address from './core.wasm?url'

interface Question {
  id: number
  ask: 'hodosTake' | 'hodosWeigh'
  with: string[]
}

declare class Go {
  importObject: WebAssembly.Imports
  run(instance: WebAssembly.Instance): Promise<void>
}

const functions = globalThis as unknown as Record<Question['ask'], (...args: string[]) => string | undefined>

async function start() {
  const go = new Go()
  const { instance } = await WebAssembly.instantiateStreaming(fetch(address), go.importObject)
  void go.run(instance)
}
const started = start()

onmessage = (e: MessageEvent<Question>) => {
  const { id, ask, with: args } = e.data
  started.then(
    () => postMessage({ id, answer: functions[ask](...args) ?? '{"error":"the core has stopped"}' }),
    (wrong: unknown) => postMessage({ id, answer: JSON.stringify({ error: String(wrong) }) }),
  )
}
