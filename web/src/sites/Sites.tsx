import { useState } from 'react'
import { Button, Input } from 'antd'
import { Link, useNavigate, useParams } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useClients, useHistory, useMe, usePeople, useRefresh, useSites, useWords, type Words } from '../api/queries'
import { fromSI, percent, readNumber, show, showDate, toSI, unitFor } from '../format'
import { Busy, Problem } from '../Shell'
import './sites.css'

type Me = Schemas['Me']
type Open = { what: 'site'; site?: Schemas['Site'] } | { what: 'zone'; zone?: Schemas['Zone'] } | { what: 'client'; client?: Schemas['Client'] } | { what: 'visit'; visit?: Schemas['Visit'] } | undefined

const textures = ['', 'sand', 'loamy-sand', 'sandy-loam', 'loam', 'silt-loam', 'clay-loam', 'clay'] as const

function Text({ label, value, onChange, required, type }: { label: string; value: string; onChange: (v: string) => void; required?: boolean; type?: string }) {
  return <label className="field"><span>{label}</span><Input aria-label={label} type={type} required={required} value={value} onChange={(e) => onChange(e.target.value)} /></label>
}

function Pick({ label, value, onChange, options }: { label: string; value: string; onChange: (v: string) => void; options: readonly (readonly [string, string])[] }) {
  return <label className="field"><span>{label}</span><select aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>{options.map(([v, l]) => <option key={v} value={v}>{l}</option>)}</select></label>
}

function Buttons({ pending, error, onClose }: { pending: boolean; error: unknown; onClose: () => void }) {
  return (
    <>
      {error !== null && error !== undefined && <Problem error={error} />}
      <p className="buttons"><Button type="primary" htmlType="submit" loading={pending}>Save</Button><Button onClick={onClose}>Close</Button></p>
    </>
  )
}

function ClientForm({ client, onDone }: { client?: Schemas['Client']; onDone: (id: string) => void }) {
  const refresh = useRefresh()
  const [d, setD] = useState<Schemas['Client']>(client ?? { id: newId(), name: '', phone: '', email: '', notes: '', version: 0 })
  const save = useMutation({
    mutationFn: () => got(client ? api.PUT('/clients/{id}', { params: { path: { id: d.id } }, body: d }) : api.POST('/clients', { body: d })),
    onSuccess: async () => { await refresh(); onDone(d.id) },
  })
  return (
    <form className="form side" aria-label="Client" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>{client ? 'Change the client' : 'New client'}</h2>
      <Text label="Name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <Text label="Telephone" value={d.phone} onChange={(phone) => setD({ ...d, phone })} />
      <Text label="Mail" type="email" value={d.email} onChange={(email) => setD({ ...d, email })} />
      <Text label="Notes" value={d.notes} onChange={(notes) => setD({ ...d, notes })} />
      <Buttons pending={save.isPending} error={save.error} onClose={() => onDone('')} />
    </form>
  )
}

function SiteForm({ site, me, onDone }: { site?: Schemas['Site']; me: Me; onDone: (id: string) => void }) {
  const refresh = useRefresh()
  const clients = useClients()
  const [d, setD] = useState<Schemas['Site']>(site ?? { id: newId(), client_id: '', name: '', address: '', latitude: 0, longitude: 0, timezone: Intl.DateTimeFormat().resolvedOptions().timeZone, lines_located_on: '', access_notes: '', version: 0 })
  const [lat, setLat] = useState(site ? String(site.latitude) : '')
  const [lon, setLon] = useState(site ? String(site.longitude) : '')
  const save = useMutation({
    mutationFn: () => {
      const body: Schemas['Site'] = { ...d, client_name: undefined, zones: undefined, client_id: d.client_id || (clients.data?.[0]?.id ?? ''), latitude: readNumber(lat) ?? 999, longitude: readNumber(lon) ?? 999, lines_located_on: d.lines_located_on ?? '' }
      return got(site ? api.PUT('/sites/{id}', { params: { path: { id: d.id } }, body }) : api.POST('/sites', { body }))
    },
    onSuccess: async () => { await refresh(); onDone(d.id) },
  })
  return (
    <form className="form side" aria-label="Site" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>{site ? 'Change the site' : 'New site'}</h2>
      <Pick label="Client" value={d.client_id || (clients.data?.[0]?.id ?? '')} onChange={(client_id) => setD({ ...d, client_id })} options={(clients.data ?? []).map((c) => [c.id, c.name] as const)} />
      <Text label="Site name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <Text label="Address" value={d.address} onChange={(address) => setD({ ...d, address })} />
      <div className="fields">
        <Text label="Latitude" required value={lat} onChange={setLat} />
        <Text label="Longitude" required value={lon} onChange={setLon} />
        <Text label="Time zone" required value={d.timezone} onChange={(timezone) => setD({ ...d, timezone })} />
      </div>
      <label className="field"><span>Buried lines located on</span><input className="plain-date" type="date" max={me.today} aria-label="Buried lines located on" value={d.lines_located_on ?? ''} onChange={(e) => setD({ ...d, lines_located_on: e.target.value })} /></label>
      <Text label="Access" value={d.access_notes} onChange={(access_notes) => setD({ ...d, access_notes })} />
      <Buttons pending={save.isPending} error={save.error} onClose={() => onDone('')} />
    </form>
  )
}

function ZoneForm({ zone, site, me, words, onDone }: { zone?: Schemas['Zone']; site: string; me: Me; words: Words; onDone: () => void }) {
  const refresh = useRefresh()
  const [d, setD] = useState<Schemas['Zone']>(zone ?? { id: newId(), site_id: site, name: '', area_m2: 0, area_error: 0.1, species: ['unknown'], texture: '', target_cover: 0.9, policy: {}, version: 0 })
  const [area, setArea] = useState(zone ? String(Math.round(fromSI(zone.area_m2, 'm2', me.unit_system))) : '')
  const [error, setError] = useState(String(Math.round(d.area_error * 100)))
  const save = useMutation({
    mutationFn: () => {
      const body = { ...d, area_m2: toSI(readNumber(area) ?? -1, 'm2', me.unit_system), area_error: (readNumber(error) ?? -100) / 100 }
      return got(zone ? api.PUT('/zones/{id}', { params: { path: { id: d.id } }, body }) : api.POST('/zones', { body }))
    },
    onSuccess: async () => { await refresh(); onDone() },
  })
  const grasses = words.raw.species.map((s) => [s.id, s.label] as const)
  return (
    <form className="form side" aria-label="Zone" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>{zone ? 'Change the zone' : 'New zone'}</h2>
      <Text label="Zone name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <div className="fields">
        <Text label={`Area, ${unitFor('m2', me.unit_system)?.label ?? 'm²'}`} required value={area} onChange={setArea} />
        <Text label="Area accuracy, ± %" value={error} onChange={setError} />
        <Pick label="Soil" value={d.texture} onChange={(t) => setD({ ...d, texture: t as (typeof textures)[number] })} options={textures.map((t) => [t, t ? t.replaceAll('-', ' ') : 'not known'] as const)} />
      </div>
      <Pick label="Main grass" value={d.species[0] ?? 'unknown'} onChange={(s) => setD({ ...d, species: [s, ...d.species.slice(1).filter((x) => x !== s)] })} options={grasses} />
      <Pick label="Second grass" value={d.species[1] ?? ''} onChange={(s) => setD({ ...d, species: s && s !== d.species[0] ? [d.species[0] ?? 'unknown', s] : [d.species[0] ?? 'unknown'] })} options={[['', 'no other'], ...grasses]} />
      <Pick label="Watered" value={d.irrigated === undefined || d.irrigated === null ? '' : d.irrigated ? 'yes' : 'no'} onChange={(v) => setD({ ...d, irrigated: v === '' ? undefined : v === 'yes' })} options={[['', 'not known'], ['yes', 'has irrigation'], ['no', 'is not irrigated']]} />
      <div className="fields">
        <Pick label="In summer" value={d.policy['summer-water'] ?? ''} onChange={(v) => setD({ ...d, policy: { ...d.policy, 'summer-water': (v || undefined) as never } })} options={[['', 'not said'], ['keep-green', 'keep green'], ['let-rest', 'let rest'], ['one-area', 'one area green']]} />
        <Pick label="Summer feeding" value={d.policy['summer-feeding'] ?? ''} onChange={(v) => setD({ ...d, policy: { ...d.policy, 'summer-feeding': (v || undefined) as never } })} options={[['', 'not said'], ['none', 'none'], ['spoon-feed', 'little and often']]} />
        <Pick label="Pests" value={d.policy.pests ?? ''} onChange={(v) => setD({ ...d, policy: { ...d.policy, pests: (v || undefined) as never } })} options={[['', 'not said'], ['threshold', 'at the threshold'], ['preventive', 'preventive']]} />
        <Pick label="Blemishes" value={d.policy.blemishes ?? ''} onChange={(v) => setD({ ...d, policy: { ...d.policy, blemishes: (v || undefined) as never } })} options={[['', 'not said'], ['tolerate', 'tolerate'], ['treat', 'treat']]} />
      </div>
      <Buttons pending={save.isPending} error={save.error} onClose={onDone} />
    </form>
  )
}

function VisitForm({ site, visit, me, onDone }: { site: string; visit?: Schemas['Visit']; me: Me; onDone: () => void }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const people = usePeople()
  const [id] = useState(() => visit?.id ?? newId())
  const [due, setDue] = useState(visit?.due_on ?? me.today)
  const [reason, setReason] = useState(visit?.reason ?? '')
  const [person, setPerson] = useState(visit?.person_id ?? me.person_id)
  const save = useMutation({
    mutationFn: () => {
      const body: Schemas['Visit'] = { id, site_id: site, zone_id: visit?.zone_id, kind: visit?.kind ?? 'diagnosis', due_on: due, reason, version: visit?.version ?? 0, person_id: person }
      return got(visit ? api.PUT('/visits/{id}', { params: { path: { id } }, body }) : api.POST('/visits', { body }))
    },
    onSuccess: async () => {
      await refresh()
      onDone()
      if (!visit && due <= me.today && me.rights.includes('answer-checks')) void navigate(`/visits/${id}`)
    },
  })
  return (
    <form className="form side" aria-label="Visit" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>{visit ? 'Change the visit' : 'Book a visit'}</h2>
      <label className="field"><span>Day</span><input className="plain-date" type="date" required aria-label="Day" value={due} onChange={(e) => setDue(e.target.value)} /></label>
      <Text label="Reason" value={reason} onChange={setReason} />
      <Pick label="Who goes" value={person} onChange={setPerson} options={(people.data ?? []).filter((p) => p.active).map((p) => [p.id, p.name] as const)} />
      <Buttons pending={save.isPending} error={save.error} onClose={onDone} />
    </form>
  )
}

function Happened({ site, me, words, onChange }: { site: Schemas['Site']; me: Me; words: Words; onChange: (v: Schemas['Visit']) => void }) {
  const history = useHistory(site.id)
  if (history.isError) return <Problem error={history.error} />
  if (!history.data) return <Busy what="the history" />
  const zone = (id: string) => site.zones?.find((z) => z.id === id)?.name ?? ''
  const h = history.data
  return (
    <>
      {h.repeat_offenders.map((o) => <p key={o.zone_id + o.cause} className="caution"><b>{zone(o.zone_id)}</b>: {words.cause.get(o.cause)?.label.toLowerCase()} {o.times} times within three years. Only the symptom was treated, not the cause.</p>)}
      <h3>Visits</h3>
      <ul className="visit-list">
        {h.visits.map((v) => {
          const given = h.given.filter((g) => g.visit_id === v.id)
          return (
            <li key={v.id}>
              <Link to={v.kind === 'follow-up' && v.zone_id ? `/visits/${v.id}/${v.zone_id}/recovery` : `/visits/${v.id}${v.zone_id ? `/${v.zone_id}` : ''}`}><b className="num">{showDate(v.due_on, me.date_form)}</b> {v.reason || 'visit'}</Link>
              <span className="faint">{[v.closed_on ? 'closed' : v.due_on < me.today ? 'overdue' : 'booked', v.person_name, ...given.map((g) => `${zone(g.zone_id)}: ${words.cause.get(g.leading)?.label ?? ''} ${percent(g.probability)} %`)].filter(Boolean).join(', ')}</span>
              {!v.closed_on && me.rights.includes('book-visits') && <Button size="small" onClick={() => onChange(v)}>Change</Button>}
            </li>
          )
        })}
      </ul>
      {h.visits.length === 0 && <p className="faint">No visit yet.</p>}
    </>
  )
}

export default function Sites() {
  const { site: chosen = '' } = useParams()
  const navigate = useNavigate()
  const me = useMe().data
  const words = useWords()
  const sites = useSites()
  const clients = useClients()
  const [open, setOpen] = useState<Open>()
  if (sites.isError) return <Problem error={sites.error} />
  if (!sites.data || !me || !words) return <Busy what="the sites" />
  const site = sites.data.find((s) => s.id === chosen) ?? sites.data[0]
  const keeps = me.rights.includes('keep-sites')
  // a form that finishes late closes itself, not the one opened since
  const close = () => setOpen((now) => (now === open ? undefined : now))
  return (
    <main className="sites">
      <nav aria-label="Sites">
        <h1>Sites <small className="num faint">{sites.data.length}</small></h1>
        <ul>{sites.data.map((s) => <li key={s.id}><Link to={`/sites/${s.id}`} aria-current={s.id === site?.id ? 'page' : undefined} onClick={close}><b>{s.name}</b><span className="faint">{s.client_name}, {s.zones?.length ?? 0} {s.zones?.length === 1 ? 'zone' : 'zones'}</span></Link></li>)}</ul>
        {keeps && <p className="buttons"><Button onClick={() => setOpen({ what: 'site' })}>New site</Button><Button onClick={() => setOpen({ what: 'client' })}>New client</Button></p>}
      </nav>
      {site ? (
        <section className="site" aria-label={site.name}>
          <h2>{site.name}</h2>
          <p>{site.client_name}<br />{site.address}<br /><span className="num faint">{Math.abs(site.latitude).toFixed(3)}° {site.latitude < 0 ? 'S' : 'N'}, {Math.abs(site.longitude).toFixed(3)}° {site.longitude < 0 ? 'W' : 'E'}, {site.timezone}</span></p>
          {site.access_notes && <p className="notice">{site.access_notes}</p>}
          <p>{site.lines_located_on ? `Buried lines located on ${showDate(site.lines_located_on, me.date_form)}` : 'Buried lines not located. Do not core or dig until they are.'}</p>
          <p className="buttons">
            {me.rights.includes('book-visits') && <Button type="primary" onClick={() => setOpen({ what: 'visit' })}>Book a visit</Button>}
            {keeps && <><Button onClick={() => setOpen({ what: 'site', site })}>Change the site</Button><Button onClick={() => setOpen({ what: 'client', client: clients.data?.find((c) => c.id === site.client_id) })}>Change the client</Button><Button onClick={() => setOpen({ what: 'zone' })}>Add a zone</Button></>}
          </p>
          <h3>Zones</h3>
          <ul className="zone-list">
            {(site.zones ?? []).map((z) => (
              <li key={z.id}>
                <b>{z.name}</b> <span className="num">{show(z.area_m2, 'm2', me.unit_system)}</span>
                <span className="faint">{z.species.map((s) => words.species.get(s)?.label ?? s).join(' with ')}{z.texture ? `, ${z.texture.replaceAll('-', ' ')}` : ''}{z.irrigated === true ? ', irrigated' : z.irrigated === false ? ', not irrigated' : ''}</span>
                <span className="buttons"><Link className="export" to={`/zones/${z.id}/sky`}>Sky</Link><Link className="export" to={`/zones/${z.id}/recovery`}>Recovery</Link>{keeps && <Button onClick={() => setOpen({ what: 'zone', zone: z })}>Change</Button>}</span>
              </li>
            ))}
          </ul>
          <Happened site={site} me={me} words={words} onChange={(visit) => setOpen({ what: 'visit', visit })} />
          {(site.zones ?? []).length === 0 && <p className="empty">No zone yet. Each zone is diagnosed separately.</p>}
        </section>
      ) : <p className="empty">No site yet. Begin with a client, then the site and its zones.</p>}
      {open?.what === 'site' && <SiteForm key={open.site?.id ?? 'new'} site={open.site} me={me} onDone={(id) => { close(); if (id) void navigate(`/sites/${id}`) }} />}
      {open?.what === 'client' && <ClientForm key={open.client?.id ?? 'new'} client={open.client} onDone={close} />}
      {open?.what === 'zone' && site && <ZoneForm key={open.zone?.id ?? 'new'} zone={open.zone} site={site.id} me={me} words={words} onDone={close} />}
      {open?.what === 'visit' && site && <VisitForm key={open.visit?.id ?? site.id} site={site.id} visit={open.visit} me={me} onDone={close} />}
    </main>
  )
}
