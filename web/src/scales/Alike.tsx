import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import './alike.css'

const said: Record<Schemas['AlikeOf']['word'], string> = {
  '': '',
  behind: 'This one is behind.',
  'as-they': 'This one keeps up.',
  ahead: 'This one is ahead.',
}

/** "half are between 60 and 75 %, this one 40 %" */
export function amongSaid(a: Schemas['AlikeOf'], as: (x: number) => string): string {
  const others =
    a.n === 1
      ? `the other is at ${as(a.median)}`
      : a.quarter === a.three_quarters
        ? `they are at ${as(a.median)}`
        : `half are between ${as(a.quarter)} and ${as(a.three_quarters)}`
  return a.own === undefined ? others : `${others}, this one is at ${as(a.own)}`
}

const percents = (x: number) => `${Math.round(x)} %`
const index = (x: number) => x.toFixed(2)

/**
 * The firm's other lawns of the same grass nearby, seen in these weeks: the yardstick for green-up, colour and dormancy. It is asked
 * anew when what is shown of this one changes, not with every answer.
 */
export function LikeLawns({ visit, zone, shown }: { visit: string; zone: string; shown: string }) {
  const alike = useQuery({
    queryKey: ['alike', visit, zone, shown],
    staleTime: 5 * 60_000,
    queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/alike', { params: { path: { id: visit, zone } } })),
    placeholderData: (before) => before,
    retry: false,
  }).data
  if (!alike || alike.lawns === 0) return null
  const { same, at_rest: rest, green_up: green, colour } = alike
  if (same.n + rest.of === 0 && !green && !colour) return null
  return (
    <section className="like-lawns" aria-label="Like lawns">
      <h3>Your other lawns of this grass</h3>
      <ul>
        {same.n > 0 && (
          <li>
            <b className="num">
              {same.of} of {same.n}
            </b>{' '}
            {same.n === 1 ? 'shows' : 'show'} the same colour and pattern
          </li>
        )}
        {rest.of > 0 && (
          <li>
            <b className="num">
              {rest.of} of {rest.n}
            </b>{' '}
            {rest.n === 1 ? 'was' : 'were'} found dormant
          </li>
        )}
        {green && (
          <li data-word={green.word}>
            Green-up: {amongSaid(green, percents)}. <b>{said[green.word]}</b>
          </li>
        )}
        {colour && (
          <li data-word={colour.word}>
            Colour index: {amongSaid(colour, index)}. <b>{said[colour.word]}</b>
          </li>
        )}
      </ul>
      <p className="faint">
        {alike.lawns === 1 ? 'One lawn' : `${alike.lawns} lawns`} within {alike.km} km, seen in the last {alike.days} days
      </p>
    </section>
  )
}
