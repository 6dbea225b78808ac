import { useState, type ReactNode } from 'react'
import { Button, Input } from 'antd'
import { Link } from 'react-router'
import { useSites } from '../api/queries'
import { count } from '../format'
import { Busy, Problem } from '../Shell'
import { useSettled } from '../ui/useSettled'

/** The firm's sites by name, a page at a time; find looks through site, client and address. */
export function SiteList({ chosen, onGo, children }: { chosen: string; onGo: () => void; children?: ReactNode }) {
  const [find, setFind] = useState('')
  const sites = useSites(useSettled(find))
  if (sites.isLoadingError) return <Problem error={sites.error} />
  if (!sites.data) return <Busy what="the sites" />
  const list = sites.data.pages.flatMap((p) => p.sites)
  return (
    <nav aria-label="Sites" aria-busy={sites.isFetching}>
      <h1>
        Sites <small className="num faint">{count(sites.data.pages[0]?.total ?? 0)}</small>
      </h1>
      <Input
        type="search"
        aria-label="Find a site"
        placeholder="Site, client or street"
        value={find}
        onChange={(e) => setFind(e.target.value)}
      />
      <ul>
        {list.map((s) => (
          <li key={s.id}>
            <Link to={`/sites/${s.id}`} aria-current={s.id === chosen ? 'page' : undefined} onClick={onGo}>
              <b>{s.name}</b>
              <span className="faint">
                {s.client_name}, {s.zones?.length ?? 0} {s.zones?.length === 1 ? 'zone' : 'zones'}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {list.length === 0 && find !== '' && <p className="faint">No site, client or street goes by that.</p>}
      {sites.hasNextPage && (
        <p className="buttons">
          <Button loading={sites.isFetchingNextPage} onClick={() => void sites.fetchNextPage()}>
            More sites
          </Button>
        </p>
      )}
      {children}
    </nav>
  )
}
