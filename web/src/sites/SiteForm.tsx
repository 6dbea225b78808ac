import { useEffect, useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useClients, useRefresh } from '../api/queries'
import { readNumber } from '../format'
import { Buttons, Day, Pick, Text } from '../ui/Field'
import { useSettled } from '../ui/useSettled'
import { shown } from '../ui/shown'

export function SiteForm({ site, me, onDone }: { site?: Schemas['Site']; me: Schemas['Me']; onDone: (id: string) => void }) {
  const refresh = useRefresh()
  const [client, setClient] = useState(site?.client_id ?? '')
  const [d, setD] = useState<Schemas['Site']>(
    site ?? {
      id: newId(),
      client_id: '',
      name: '',
      address: '',
      latitude: 0,
      longitude: 0,
      timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
      lines_located_on: '',
      access_notes: '',
      version: 0,
    },
  )
  const [lat, setLat] = useState(site ? String(site.latitude) : '')
  const [lon, setLon] = useState(site ? String(site.longitude) : '')
  const save = useMutation({
    mutationFn: () => {
      const body: Schemas['Site'] = {
        ...d,
        client_name: undefined,
        zones: undefined,
        client_id: client,
        latitude: readNumber(lat) ?? 999,
        longitude: readNumber(lon) ?? 999,
        lines_located_on: d.lines_located_on ?? '',
      }
      return got(site ? api.PUT('/sites/{id}', { params: { path: { id: d.id } }, body }) : api.POST('/sites', { body }))
    },
    onSuccess: async () => {
      await refresh()
      onDone(d.id)
    },
  })
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label="Site"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>{site ? 'Change the site' : 'New site'}</h2>
      <ClientPick value={client} known={site} onChange={setClient} />
      <Text label="Site name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <Text label="Address" value={d.address} onChange={(address) => setD({ ...d, address })} />
      <div className="fields">
        <Text label="Latitude" required value={lat} onChange={setLat} />
        <Text label="Longitude" required value={lon} onChange={setLon} />
        <Text label="Time zone" required value={d.timezone} onChange={(timezone) => setD({ ...d, timezone })} />
      </div>
      <Day
        label="Buried lines located on"
        form={me.date_form}
        max={me.today}
        value={d.lines_located_on ?? ''}
        onChange={(lines_located_on) => setD({ ...d, lines_located_on })}
      />
      <Text label="Access" value={d.access_notes} onChange={(access_notes) => setD({ ...d, access_notes })} />
      <Buttons pending={save.isPending} error={save.error} onClose={() => onDone('')} />
    </form>
  )
}

/** The client of a site, found by name: a large firm has more than a list can hold. */
function ClientPick({ value, known, onChange }: { value: string; known?: Schemas['Site']; onChange: (id: string) => void }) {
  const [find, setFind] = useState('')
  const clients = useClients(useSettled(find))
  const page = clients.data?.clients ?? []
  const options = page.map((c) => [c.id, c.name] as [string, string])
  if (known && !find && !options.some(([id]) => id === known.client_id)) options.unshift([known.client_id, known.client_name ?? ''])
  const first = options[0]?.[0] ?? ''
  // what is seen is what is saved: when the one chosen is not among those found, the first of these is
  const chosen = options.some(([id]) => id === value) ? value : first
  useEffect(() => {
    if (chosen && chosen !== value) onChange(chosen)
  }, [chosen, value, onChange])
  return (
    <>
      {(find || clients.data?.next) && <Text label="Find a client" value={find} onChange={setFind} />}
      <Pick label="Client" value={chosen} onChange={onChange} options={options} />
      {find && clients.data && options.length === 0 && <p className="faint">No client has that name.</p>}
    </>
  )
}
