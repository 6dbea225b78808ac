import { useState } from 'react'
import { Button, Input } from 'antd'
import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { useMe, useWords } from '../api/queries'
import { count, show, type UnitSystem } from '../format'
import { Busy, Problem } from '../Shell'
import { useSettled } from '../ui/useSettled'
import './calendar.css'

type Point = Schemas['ReviewPoint']

/** A point in words. */
function say(p: Point, sys: UnitSystem, cause: (id: string) => string): string {
  const value = p.value ?? 0
  const of = p.of ?? 0
  switch (p.id) {
    case 'off-course':
      return 'Recovery off course: diagnose it again'
    case 'slow':
      return 'Recovery slower than expected'
    case 'cover':
      return `Cover ${Math.round(value)} % of the ${Math.round(of)} % wanted`
    case 'again':
      return `${cause(p.cause ?? '')} for the ${value === 2 ? 'second' : value === 3 ? 'third' : `${value}th`} time in three years: mend what brings it`
    case 'thatch':
      return `Thatch ${show(value, 'mm', sys, sys === 'us' ? 2 : 0)}`
    case 'hard':
      return `Hard ground, ${show(value, 'kPa', sys)}`
    case 'uneven':
      return `Uneven watering, ${Math.round(value * 100)} % in the low quarter`
    case 'weeds':
      return `Weeds ${Math.round(value)} %`
    case 'unfed':
      return `Fed ${show(value, 'g/m2', sys, 1)} N of at least ${show(of, 'g/m2', sys, 1)} in twelve months`
    case 'no-test':
      return 'The soil has never been tested'
    case 'old-test':
      return `The soil test is ${value} years old`
    case 'nothing-booked':
      return 'Nothing is booked'
    case 'unseen':
      return 'Nobody was there for a year'
  }
  return p.id
}

/** What of each zone is worth a look when the season turns, a page at a time. */
export default function Review() {
  const me = useMe().data
  const words = useWords()
  const [find, setFind] = useState('')
  const settled = useSettled(find)
  const review = useInfiniteQuery({
    queryKey: ['review', settled],
    queryFn: ({ pageParam: after }) => got(api.GET('/review', { params: { query: { find: settled, after } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  })
  if (review.isLoadingError) return <Problem error={review.error} />
  if (!review.data || !me || !words) return <Busy what="the review" />
  const zones = review.data.pages.flatMap((p) => p.zones)
  const sound = zones.filter((z) => z.points.length === 0).length
  return (
    <main className="calendar review">
      <div className="calendar-head">
        <h1>Season review</h1>
        <Input
          type="search"
          aria-label="Find a site"
          placeholder="site, client or street"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <span className="faint num">{count(review.data.pages[0]?.total ?? 0)} sites</span>
      </div>
      <p className="faint">
        What did not hold, what the ground lacks, and where nothing is booked. {sound > 0 && `${sound} zones have nothing.`}
      </p>
      <ul className="review-list">
        {zones
          .filter((z) => z.points.length > 0)
          .map((z) => (
            <li key={z.zone_id} data-zone={z.zone_id}>
              <Link to={`/sites/${z.site_id}`}>
                <span>
                  <b>{z.site_name}</b>, {z.zone_name}
                </span>
              </Link>
              <ul>
                {z.points.map((p) => (
                  <li key={p.id + (p.cause ?? '')} data-point={p.id}>
                    {say(p, me.unit_system, (id) => words.cause.get(id)?.label ?? id)}
                  </li>
                ))}
              </ul>
            </li>
          ))}
      </ul>
      {review.hasNextPage && (
        <Button loading={review.isFetchingNextPage} onClick={() => void review.fetchNextPage()}>
          More
        </Button>
      )}
    </main>
  )
}
