import { useState } from 'react'
import { Input } from 'antd'
import { Link } from 'react-router'
import { useLikely, useMe, useWords } from '../api/queries'
import { percent } from '../format'
import { FamilyMark, familyLabels } from '../scales/Family'
import { Busy, Problem } from '../Shell'
import { SitePick } from '../sites/SitePick'
import './causes.css'

const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

/** The field guide: every cause, by what is likely in the month at the site. */
export default function Causes() {
  const me = useMe().data
  const words = useWords()
  const [month, setMonth] = useState(0)
  const [site, setSite] = useState('')
  const [search, setSearch] = useState('')
  const likely = useLikely(month, site)
  if (likely.isLoadingError) return <Problem error={likely.error} />
  if (!words || !me || !likely.data) return <Busy what="the field guide" />
  const at = month || Number(me.today.slice(5, 7))
  const needle = search.trim().toLowerCase()
  const list = likely.data.filter((l) => {
    const c = words.cause.get(l.id)
    return needle.split(/\s+/).every((w) => !w || (c && `${l.text} ${familyLabels[c.family]?.toLowerCase() ?? ''} ${c.id}`.includes(w)))
  })
  const top = Math.max(...likely.data.map((l) => l.chance), 0.01)
  return (
    <main className="causes">
      <div className="causes-ask">
        <h1>Likely in {monthNames[at - 1]}</h1>
        <label>
          Month{' '}
          <select className="plain" value={month} onChange={(e) => setMonth(Number(e.target.value))}>
            <option value={0}>this month</option>
            {monthNames.map((m, i) => (
              <option key={m} value={i + 1}>
                {m}
              </option>
            ))}
          </select>
        </label>
        <SitePick value={site} none="any grass here" onChange={setSite} />
        <label>
          Find by name, sign or season{' '}
          <Input type="search" value={search} onChange={(e) => setSearch(e.target.value)} aria-label="Find a cause" />
        </label>
      </div>
      <p className="faint">How common each cause is on lawns we get called to, before any checks.</p>
      <ol className="guide">
        {list.map((l) => {
          const c = words.cause.get(l.id)
          return (
            c && (
              <li key={l.id}>
                <Link to={`/causes/${l.id}`}>
                  <FamilyMark family={c.family} />
                  <span>{c.label}</span>
                  <span className="num">{l.chance < 0.001 ? '–' : `${percent(l.chance)} %`}</span>
                  <svg viewBox="0 0 100 4" preserveAspectRatio="none" aria-hidden="true">
                    <rect className="guide-bar" width={(100 * l.chance) / top} height="4" />
                  </svg>
                </Link>
              </li>
            )
          )
        })}
      </ol>
      {list.length === 0 && <p className="empty">No cause goes by that name or sign.</p>}
      <h2>What clients have heard</h2>
      <ul className="claims">
        {words.raw.claims.map((c) => (
          <li key={c.id} data-claim={c.id}>
            <b>“{c.heard}”</b> {c.answer} <span className="faint">Evidence {c.grade}</span>
          </li>
        ))}
      </ul>
    </main>
  )
}
