import { useEffect, useState } from 'react'

/** Under this much room a few more pictures may not be kept (judgement: some fifty of them). */
const littleRoom = 30 * 1024 * 1024
/** Under this share of its charge a device may not last the visit (judgement). */
const littleCharge = 0.15

interface Battery extends EventTarget {
  charging: boolean
  level: number
}

export interface DeviceState {
  /** share of the charge that is left, where that is little and nothing charges it; 0 to 1 */
  charge?: number
  /** there is little room left for what waits */
  full: boolean
}

/** Asks the browser to keep what lies here even when the device runs short of room; most ask the person, or decide for themselves. */
export async function askToKeep(): Promise<void> {
  const storage = (navigator as Partial<Navigator>).storage
  if (storage && !(await storage.persisted().catch(() => true))) await storage.persist().catch(() => false)
}

async function isFull(): Promise<boolean> {
  const e = await (navigator as Partial<Navigator>).storage?.estimate().catch(() => undefined)
  return e?.quota !== undefined && e.usage !== undefined && e.quota - e.usage < littleRoom
}

/** How the device itself does: asked again every minute, and whenever its battery says so. */
export function useDevice(): DeviceState {
  const [state, setState] = useState<DeviceState>({ full: false })
  useEffect(() => {
    let battery: Battery | undefined
    let left = false
    const look = async () => {
      const full = await isFull()
      const low = battery && !battery.charging && battery.level <= littleCharge
      if (!left) setState(low ? { full, charge: battery?.level ?? 0 } : { full })
    }
    const now = () => void look()
    const asks = navigator as { getBattery?: () => Promise<Battery> }
    void (asks.getBattery?.() ?? Promise.resolve(undefined)).then(
      (b) => {
        battery = b
        for (const e of ['levelchange', 'chargingchange']) b?.addEventListener(e, now)
        now()
      },
      now, // a device that does not say
    )
    const again = setInterval(now, 60_000)
    return () => {
      left = true
      clearInterval(again)
      for (const e of ['levelchange', 'chargingchange']) battery?.removeEventListener(e, now)
    }
  }, [])
  return state
}
