/** The keys that choose an answer of the check in hand, in the order of the answers. j, k, l, n, p, m and z lead elsewhere. */
export const answerKeys = [...'123456789', ...'qwertyuioasdfghxcvb'] as const

export function answerAt(key: string): number {
  return answerKeys.indexOf(key.toLowerCase() as (typeof answerKeys)[number])
}

/** True while the user types into a field, when single keys belong to the field. */
export function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  return target.isContentEditable || target.tagName === 'TEXTAREA' || target.tagName === 'SELECT' || (target.tagName === 'INPUT' && (target as HTMLInputElement).type !== 'checkbox')
}
