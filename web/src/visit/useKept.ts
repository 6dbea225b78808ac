import { useCallback, useState } from 'react'

/** A small thing that is kept on the device under a key until it is put away: it outlives a closed page and a locked screen. */
export function useKept<T>(key: string, read: (x: unknown) => T | undefined): [T | undefined, (next: T | undefined) => void] {
  const load = () => {
    try {
      return read(JSON.parse(localStorage.getItem(key) ?? 'null'))
    } catch {
      return undefined
    }
  }
  const [held, setHeld] = useState<{ key: string; value: T | undefined }>(() => ({ key, value: load() }))
  const value = held.key === key ? held.value : load()
  if (held.key !== key) setHeld({ key, value })
  const keep = useCallback(
    (next: T | undefined) => {
      try {
        if (next === undefined) localStorage.removeItem(key)
        else localStorage.setItem(key, JSON.stringify(next))
      } catch {
        // a full device keeps it in the page alone
      }
      setHeld({ key, value: next })
    },
    [key],
  )
  return [value, keep]
}
