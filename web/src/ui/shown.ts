/**
 * As the ref of a form that is opened from elsewhere on the page: brings it into view, on a phone from far below, and the focus to it, so
 * that the next key and the next word of a screen reader belong to it.
 */
export function shown(form: HTMLElement | null) {
  if (!form) return
  if ('scrollIntoView' in form) form.scrollIntoView({ block: 'nearest' })
  form.focus({ preventScroll: true })
}
