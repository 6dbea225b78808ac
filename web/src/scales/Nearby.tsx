import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { showDate, type DateForm } from '../format'

const R = 92 // of the drawing
const rings = [5, 10, 15] // km

/** Where a case lies on the drawing: north is up. */
export function placed(c: Pick<Schemas['NearbyCase'], 'km' | 'toward'>): { x: number; y: number } {
  const r = (Math.min(c.km, 22) / 22) * R
  const a = (c.toward * Math.PI) / 180
  return { x: r * Math.sin(a), y: -r * Math.cos(a) }
}

const winds = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west']
export const windSaid = (toward: number): string => winds[Math.round(toward / 45) % 8] ?? ''

/** Confirmed cases of a cause round about: how far, in which direction, and when. Whose lawns they are is not told. */
export function Nearby({ site, cause, form }: { site: string; cause: string; form: DateForm }) {
  const cases =
    useQuery({
      queryKey: ['nearby', site],
      queryFn: () => got(api.GET('/sites/{id}/nearby', { params: { path: { id: site } } })),
      staleTime: 5 * 60_000,
    }).data?.filter((c) => c.cause === cause) ?? []
  if (cases.length === 0) return null
  return (
    <figure className="nearby">
      <svg viewBox="-100 -100 200 200" width="180" height="180" aria-hidden>
        {rings.map((km) => (
          <g key={km}>
            <circle r={(km / 22) * R} className="nearby-ring" />
            <text y={-(km / 22) * R - 2} textAnchor="middle">
              {km} km
            </text>
          </g>
        ))}
        <path d="M-5 0H5M0-5V5" className="nearby-here" />
        {cases.map((c) => {
          const p = placed(c)
          return <rect key={`${c.on}${c.km}${c.toward}`} x={p.x - 5} y={p.y - 5} width="10" height="10" data-closed={c.closed} />
        })}
      </svg>
      <figcaption>
        <ul>
          {cases.slice(0, 6).map((c) => (
            <li key={`${c.on}${c.km}${c.toward}`}>
              {showDate(c.on, form)}: {c.km} km to the {windSaid(c.toward)}
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  )
}
