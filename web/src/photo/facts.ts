/** What a picture's file tells besides its pixels. It stays on the device; the time goes out with the picture. */
export interface Facts {
  takenAt: Date
  /** true where the file says when it was taken, false where now was taken for it */
  dated: boolean
}

/** The largest file that is taken in. */
export const mostBytes = 40 * 1024 * 1024

/** Why a file cannot be a photograph, in plain words; nothing when it may be one. */
export function unfit(file: { type: string; size: number; name: string }): string {
  if (file.size === 0) return 'The file is empty.'
  if (file.size > mostBytes) return 'The file is larger than 40 MB. Take the picture again in a smaller size.'
  if (/heic|heif/i.test(file.type + file.name))
    return 'This browser cannot read HEIC pictures. Set the camera to “most compatible” (JPEG), or take the picture here.'
  if (!/^image\/(jpeg|png)$/.test(file.type)) return 'Only JPEG and PNG pictures can be read.'
  return ''
}

/** Plain words for what the browser says when it cannot read a picture. */
export const unreadable = (e: unknown): string =>
  e instanceof Error && /million pixels|background/.test(e.message)
    ? e.message
    : 'This picture is damaged or in a format that this browser cannot read. Try JPEG.'

interface Tags {
  DateTimeOriginal?: unknown
  OffsetTimeOriginal?: unknown
}

/** When a picture was taken, by its own tags: with their offset where there is one, else by the clock of this device. */
export function takenBy(tags: Tags | undefined, fallback: Date): Facts {
  const at = tags?.DateTimeOriginal
  if (at instanceof Date && !Number.isNaN(at.getTime())) return { takenAt: at, dated: true }
  const m = typeof at === 'string' ? /^(\d{4}):(\d{2}):(\d{2}) (\d{2}:\d{2}:\d{2})/.exec(at) : null
  if (!m) return { takenAt: fallback, dated: false }
  const offset =
    typeof tags?.OffsetTimeOriginal === 'string' && /^[+-]\d{2}:\d{2}$/.test(tags.OffsetTimeOriginal) ? tags.OffsetTimeOriginal : ''
  const read = new Date(`${m[1] ?? ''}-${m[2] ?? ''}-${m[3] ?? ''}T${m[4] ?? ''}${offset}`)
  return Number.isNaN(read.getTime()) ? { takenAt: fallback, dated: false } : { takenAt: read, dated: true }
}

/** Now, on the day that the work is at: the same as the device's clock, but for a demo whose day is another. */
export function workNow(today: string, now = new Date()): Date {
  const [y = 0, m = 1, d = 1] = today.split('-').map(Number)
  const at = new Date(now)
  at.setFullYear(y, m - 1, d)
  return Number.isNaN(at.getTime()) ? now : at
}

/** Reads the tags of a file before its pixels; a file that does not say when it was taken was taken now. */
export async function factsOf(file: File, fallback: Date): Promise<Facts> {
  try {
    const exifr = await import('exifr/dist/lite.esm.mjs')
    const tags = (await exifr.parse(file, { reviveValues: false, gps: false })) as Tags | undefined
    return takenBy(tags, fallback)
  } catch {
    return { takenAt: fallback, dated: false } // a picture without tags, or with broken ones, is still a picture
  }
}
