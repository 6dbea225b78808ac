/** The keys that choose an answer of the check in hand, in the order of the answers. j, k, l, n, p, m and z lead elsewhere. */
export const answerKeys = '1 2 3 4 5 6 7 8 9 q w e r t y u i o a s d f g h x c v b'.split(' ')

export function answerAt(key: string): number {
  return answerKeys.indexOf(key.toLowerCase())
}

/** True while the user types into a field, when single keys belong to the field. */
export function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  return (
    target.isContentEditable ||
    target.tagName === 'TEXTAREA' ||
    target.tagName === 'SELECT' ||
    (target.tagName === 'INPUT' && (target as HTMLInputElement).type !== 'checkbox')
  )
}
