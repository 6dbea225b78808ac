/** A browser as people call it, from what it says of itself; the text itself where it is none of the usual ones. */
export function browserOf(agent: string): string {
  const browser = /Edg\//.test(agent)
    ? 'Edge'
    : /OPR\//.test(agent)
      ? 'Opera'
      : /Firefox\//.test(agent)
        ? 'Firefox'
        : /Chrom(e|ium)\//.test(agent)
          ? 'Chrome'
          : /Safari\//.test(agent)
            ? 'Safari'
            : ''
  const device = /iPhone/.test(agent)
    ? 'iPhone'
    : /iPad/.test(agent)
      ? 'iPad'
      : /Android/.test(agent)
        ? 'Android'
        : /Windows/.test(agent)
          ? 'Windows'
          : /Mac OS X/.test(agent)
            ? 'Mac'
            : /Linux/.test(agent)
              ? 'Linux'
              : ''
  if (!browser) return agent.slice(0, 60) || 'An unknown program'
  return device ? `${browser} on ${device}` : browser
}

/** How long ago, roughly, as one would say it. */
export function ago(iso: string, now: Date): string {
  const minutes = Math.max(0, Math.round((now.getTime() - Date.parse(iso)) / 60_000))
  if (minutes < 10) return 'used just now'
  if (minutes < 60) return `used ${minutes} minutes ago`
  const hours = Math.round(minutes / 60)
  return hours === 1 ? 'used an hour ago' : hours < 48 ? `used ${hours} hours ago` : `used ${Math.round(hours / 24)} days ago`
}

/** A moment in the device's own time, to the minute. */
export function moment(iso: string, day: (iso: string) => string): string {
  const at = new Date(iso)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${day(`${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`)}, ${two(at.getHours())}:${two(at.getMinutes())}`
}
