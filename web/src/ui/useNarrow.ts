import { useSyncExternalStore } from 'react'

const query = '(max-width: 1000px)' // as in the style sheets: a phone, or a tablet upright

function watch(changed: () => void) {
  const m = matchMedia(query)
  m.addEventListener('change', changed)
  return () => m.removeEventListener('change', changed)
}

/** Whether the page is held in one hand: one thing at a time, what is pressed at the lower edge. */
export const useNarrow = (): boolean => useSyncExternalStore(watch, () => matchMedia(query).matches)
