import type { Quantity } from './settle'

/** Something that streams readings until it is let go. */
export interface Probe {
  /** as the person sees it */
  name: string
  /** no device: the readings are made up */
  simulated: boolean
  measures: Quantity[]
  /** Begins to read; the function that it gives lets the device go. Rejected where none answers. */
  open: (onReading: (quantity: Quantity, value: number) => void, onLost: () => void) => Promise<() => void>
}

/** A number of 0 to 1 from a text, always the same. */
function drawn(text: string): number {
  let h = 2166136261
  for (const c of text) h = Math.imul(h ^ (c.codePointAt(0) ?? 0), 16777619)
  return ((h >>> 0) % 10_000) / 10_000
}

/** A probe that is none: it nears a temperature and a moisture that follow from the spot, as a real one does, twice a second. */
export function simulated(spot: string): Probe {
  return {
    name: 'Simulated probe',
    simulated: true,
    measures: ['C', '%'],
    open: (onReading) => {
      const to = { C: 15 + 12 * drawn(`${spot}t`), '%': 9 + 24 * drawn(`${spot}w`) }
      const from = { C: to.C + 7, '%': 0 }
      const tau = { C: 9, '%': 1.2 } // s: a thin steel probe, and a sensor that only has to wet (judgement)
      let n = 0
      const read = () => {
        n += 1
        for (const q of ['C', '%'] as const) {
          const noise = 0.06 * (drawn(`${spot}${q}${n}`) - 0.5) * (q === 'C' ? 1 : 4)
          onReading(q, to[q] + (from[q] - to[q]) * Math.exp(-n / 2 / tau[q]) + noise)
        }
      }
      const timer = setInterval(read, 500)
      return Promise.resolve(() => clearInterval(timer))
    },
  }
}

// What of the browser's interface to Bluetooth is used here; it is not in the library of types.
interface Value extends EventTarget {
  value?: DataView
  startNotifications: () => Promise<unknown>
}
interface Found extends EventTarget {
  name?: string
  gatt?: { connect: () => Promise<Server>; disconnect: () => void }
}
interface Server {
  getPrimaryService: (id: number) => Promise<{ getCharacteristic: (id: number) => Promise<Value> }>
}
export interface Bluetooth {
  requestDevice: (options: { filters: { services: number[] }[] }) => Promise<Found>
}

// Numbers that the Bluetooth SIG has assigned: the service of sensors of the surroundings, and in it the temperature, a whole number of
// hundredths of a degree with its sign, lowest byte first.
const surroundings = 0x181a
const temperature = 0x2a6e
/** What such a sensor says where it knows no value. */
const unknown = -0x8000

/** A thermometer that speaks Bluetooth by the standard for sensors of the surroundings. */
export function byBluetooth(bluetooth: Bluetooth): Probe {
  return {
    name: 'Bluetooth thermometer',
    simulated: false,
    measures: ['C'],
    open: async (onReading, onLost) => {
      const device = await bluetooth.requestDevice({ filters: [{ services: [surroundings] }] })
      const gatt = device.gatt
      if (!gatt) throw new Error('It cannot be read.')
      device.addEventListener('gattserverdisconnected', onLost)
      const value = await (await (await gatt.connect()).getPrimaryService(surroundings)).getCharacteristic(temperature)
      const read = () => {
        const raw = value.value?.getInt16(0, true)
        if (raw !== undefined && raw !== unknown) onReading('C', raw / 100)
      }
      value.addEventListener('characteristicvaluechanged', read)
      await value.startNotifications()
      return () => {
        device.removeEventListener('gattserverdisconnected', onLost)
        value.removeEventListener('characteristicvaluechanged', read)
        gatt.disconnect()
      }
    },
  }
}

/** The probes that this browser can ask for a quantity; simulated ones in the demo only. */
export function probes(quantity: Quantity, spot: string, demo: boolean): Probe[] {
  const { bluetooth } = navigator as { bluetooth?: Bluetooth }
  return [...(bluetooth ? [byBluetooth(bluetooth)] : []), ...(demo ? [simulated(spot)] : [])].filter((p) => p.measures.includes(quantity))
}
