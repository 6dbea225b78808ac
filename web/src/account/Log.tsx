import { Button } from 'antd'
import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, got } from '../api/client'
import { useMe } from '../api/queries'
import { showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { browserOf, moment } from './words'
import './account.css'

const page = 50
const failures = ['sign-in-failed', 'code-failed', 'sign-in-slowed', 'password-change-failed']

/** What happened to the firm's accounts, the newest first. */
export default function Log() {
  const me = useMe().data
  const log = useInfiniteQuery({
    queryKey: ['events'],
    queryFn: async ({ pageParam }) => (await got(api.GET('/events', { params: { query: { before: pageParam, limit: page } } }))) ?? [],
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length === page ? last.at(-1)?.id : undefined),
  })
  if (log.isLoadingError) return <Problem error={log.error} />
  if (!log.data || !me) return <Busy what="the log" />
  const lines = log.data.pages.flat()
  return (
    <main className="log">
      <Link className="back" to="/firm">
        Firm
      </Link>
      <h1>Account log</h1>
      <p className="faint">Who signed in, from where, and what was changed about people. Lines are never changed or removed.</p>
      <table>
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">What</th>
            <th scope="col">Who</th>
            <th scope="col">From</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.id} data-kind={l.kind} data-failed={failures.includes(l.kind)}>
              <td className="num">{moment(l.at, (d) => showDate(d, me.date_form))}</td>
              <th scope="row">
                {l.label}
                {l.detail && <span className="faint">{l.detail}</span>}
              </th>
              <td>
                {l.by || (l.about ? `somebody, as ${l.about}` : 'somebody')}
                {l.by && l.about && l.about !== l.by && <span className="faint">about {l.about}</span>}
              </td>
              <td>
                {l.network}
                <span className="faint">{l.agent && browserOf(l.agent)}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {log.hasNextPage && (
        <p className="buttons">
          <Button loading={log.isFetchingNextPage} onClick={() => void log.fetchNextPage()}>
            Older lines
          </Button>
        </p>
      )}
    </main>
  )
}
