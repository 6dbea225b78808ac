import { useEffect, useState } from 'react'

/** The value once it has stood still for a moment, so that not every letter typed asks the server. */
export function useSettled<T>(value: T, ms = 200): T {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const t = setTimeout(() => setSettled(value), ms)
    return () => clearTimeout(t)
  }, [value, ms])
  return settled
}
