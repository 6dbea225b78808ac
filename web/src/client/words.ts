import type { Schemas } from '../api/client'

/** Whether there is anything to tell of a lawn. */
export const hasNews = (z: Schemas['ClientZone']): boolean =>
  Boolean(z.found ?? z.course ?? z.closed) || z.done.length + z.booked.length + z.tasks.length + z.pictures.length > 0
