import { useState } from 'react'
import { Input } from 'antd'
import { useSites } from '../api/queries'
import { useSettled } from '../ui/useSettled'

/** One of the firm's sites, or none. A firm with more than a list holds finds it by name first. */
export function SitePick({ value, none, onChange }: { value: string; none: string; onChange: (id: string) => void }) {
  const [find, setFind] = useState('')
  const [known, setKnown] = useState<readonly [string, string]>()
  const sites = useSites(useSettled(find))
  const found = (sites.data?.pages[0]?.sites ?? []).map((s) => [s.id, s.name] as const)
  const options = known && value && !found.some(([id]) => id === value) ? [known, ...found] : found
  return (
    <>
      {(find !== '' || sites.hasNextPage) && (
        <label>
          Find a site <Input type="search" aria-label="Find a site" value={find} onChange={(e) => setFind(e.target.value)} />
        </label>
      )}
      <label>
        Where{' '}
        <select
          className="plain"
          value={value}
          onChange={(e) => {
            setKnown(options.find(([id]) => id === e.target.value))
            onChange(e.target.value)
          }}
        >
          <option value="">{none}</option>
          {options.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
    </>
  )
}
