import { useState } from 'react'
import { Button, Input } from 'antd'
import { Link } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useFirm, useMe, usePeople, useRefresh } from '../api/queries'
import { showDate } from '../format'
import { Busy, Problem } from '../Shell'
import './firm.css'

type Person = Schemas['Person']
const roles = ['office', 'technician', 'applicator', 'owner'] as const
const forms = [['dmy', 'day month year'], ['mdy', 'month day, year'], ['ymd', 'year-month-day']] as const
const systems = [['metric', 'metric'], ['us', 'US customary']] as const
const rightsOf: [string, string][] = [['see', 'Read everything'], ['answer-checks', 'Checks and looks'], ['record-treatment', 'Record treatments'], ['record-pesticide', 'Sign with a licence'], ['book-visits', 'Book visits'], ['keep-sites', 'Keep sites'], ['keep-people', 'Keep people'], ['keep-firm', 'Firm settings']]
const roleRights: Record<(typeof roles)[number], string[]> = {
  office: ['see', 'book-visits', 'keep-sites'],
  technician: ['see', 'answer-checks', 'record-treatment', 'book-visits'],
  applicator: ['see', 'answer-checks', 'record-treatment', 'record-pesticide', 'book-visits', 'keep-sites'],
  owner: rightsOf.map(([r]) => r),
}

function Choose<T extends string>({ label, value, onChange, options, disabled }: { label: string; value: T; onChange: (v: T) => void; options: readonly (readonly [T, string])[]; disabled?: boolean }) {
  return <label className="field"><span>{label}</span><select aria-label={label} disabled={disabled} value={value} onChange={(e) => onChange(e.target.value as T)}>{options.map(([v, l]) => <option key={v} value={v}>{l}</option>)}</select></label>
}

function PersonForm({ person, onClose }: { person?: Person; onClose: () => void }) {
  const refresh = useRefresh()
  const [d, setD] = useState<Person>(person ?? { id: newId(), name: '', email: '', role: 'technician', licence_number: '', licence_until: '', unit_system: '', date_form: '', active: true, version: 0 })
  const save = useMutation({
    mutationFn: () => got(person ? api.PUT('/people/{id}', { params: { path: { id: d.id } }, body: { ...d, licence_until: d.licence_until ?? '' } }) : api.POST('/people', { body: { ...d, licence_until: d.licence_until ?? '' } })),
    onSuccess: async () => { await refresh(); onClose() },
  })
  return (
    <form className="form side" aria-label="Person" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>{person ? 'Edit person' : 'New person'}</h2>
      <label className="field"><span>Name</span><Input required aria-label="Name" value={d.name} onChange={(e) => setD({ ...d, name: e.target.value })} /></label>
      <label className="field"><span>Email</span><Input required type="email" aria-label="Email" value={d.email} onChange={(e) => setD({ ...d, email: e.target.value })} /></label>
      <Choose label="Role" value={d.role} onChange={(role) => setD({ ...d, role })} options={roles.map((r) => [r, r] as const)} />
      <label className="field"><span>{person ? 'New password (empty keeps the old)' : 'Password'}</span><Input.Password autoComplete="new-password" required={!person} minLength={10} aria-label="Password" value={d.password ?? ''} onChange={(e) => setD({ ...d, password: e.target.value || undefined })} /></label>
      <label className="field"><span>Licence number</span><Input aria-label="Licence number" value={d.licence_number} onChange={(e) => setD({ ...d, licence_number: e.target.value })} /></label>
      <label className="field"><span>Licence valid until</span><input type="date" className="plain-date" aria-label="Licence valid until" value={d.licence_until ?? ''} onChange={(e) => setD({ ...d, licence_until: e.target.value })} /></label>
      <label className="tick-line"><input type="checkbox" checked={d.active} onChange={(e) => setD({ ...d, active: e.target.checked })} /> May sign in</label>
      {save.isError && <Problem error={save.error} />}
      <p className="buttons"><Button type="primary" htmlType="submit" loading={save.isPending}>Save</Button><Button onClick={onClose}>Close</Button></p>
    </form>
  )
}

function Settings({ firm, may }: { firm: Schemas['FirmSettings']; may: boolean }) {
  const refresh = useRefresh()
  const [d, setD] = useState(firm)
  const save = useMutation({ mutationFn: () => got(api.PUT('/firm', { body: { ...d, version: firm.version } })), onSuccess: refresh })
  return (
    <form className="form" aria-label="Firm settings" onSubmit={(e) => { e.preventDefault(); save.mutate() }}>
      <h2>The firm</h2>
      <label className="field"><span>Firm name</span><Input required disabled={!may} aria-label="Firm name" value={d.name} onChange={(e) => setD({ ...d, name: e.target.value })} /></label>
      <div className="fields">
        <label className="field"><span>Country</span><Input required disabled={!may} maxLength={2} aria-label="Country" value={d.country} onChange={(e) => setD({ ...d, country: e.target.value.toUpperCase() })} /></label>
        <label className="field"><span>Currency</span><Input required disabled={!may} maxLength={3} aria-label="Currency" value={d.currency} onChange={(e) => setD({ ...d, currency: e.target.value.toUpperCase() })} /></label>
        <Choose label="Dates" disabled={!may} value={d.date_form} onChange={(date_form) => setD({ ...d, date_form })} options={forms} />
        <Choose label="Units" disabled={!may} value={d.unit_system} onChange={(unit_system) => setD({ ...d, unit_system })} options={systems} />
      </div>
      {save.isError && <Problem error={save.error} />}
      {may && <p className="buttons"><Button type="primary" htmlType="submit" loading={save.isPending}>Save the firm</Button></p>}
    </form>
  )
}

function Mine({ mine }: { mine: Person }) {
  const refresh = useRefresh()
  const save = useMutation({ mutationFn: (body: { unit_system: Person['unit_system']; date_form: Person['date_form'] }) => got(api.PUT('/me/settings', { body })), onSuccess: refresh })
  return (
    <section className="form" aria-label="My settings">
      <h2>For me alone</h2>
      <div className="fields">
        <Choose label="My units" value={mine.unit_system} onChange={(unit_system) => save.mutate({ unit_system, date_form: mine.date_form })} options={[['', 'as the firm'], ...systems]} />
        <Choose label="My dates" value={mine.date_form} onChange={(date_form) => save.mutate({ unit_system: mine.unit_system, date_form })} options={[['', 'as the firm'], ...forms]} />
      </div>
      {save.isError && <Problem error={save.error} />}
    </section>
  )
}

export default function Firm() {
  const me = useMe().data
  const people = usePeople()
  const firm = useFirm()
  const [open, setOpen] = useState<{ person?: Person } | undefined>()
  if (people.isError || firm.isError) return <Problem error={people.error ?? firm.error} />
  if (!people.data || !firm.data || !me) return <Busy what="the firm" />
  const keeps = me.rights.includes('keep-people')
  const mine = people.data.find((p) => p.id === me.person_id)
  return (
    <main className="firm">
      <div>
        <h1>People</h1>
        <table>
          <thead><tr><th scope="col">Name</th><th scope="col">Role</th><th scope="col">Licence</th><th scope="col"><span className="unseen">Change</span></th></tr></thead>
          <tbody>
            {people.data.map((p) => (
              <tr key={p.id} data-active={p.active}>
                <th scope="row">{p.name}<span className="faint">{p.email}</span></th>
                <td>{p.role}{!p.active && ', no access'}</td>
                <td className="num">{p.licence_number ? <>{p.licence_number}<span className="faint" data-over={(p.licence_until ?? '') < me.today}>{(p.licence_until ?? '') < me.today ? 'expired ' : 'until '}{showDate(p.licence_until, me.date_form)}</span></> : '–'}</td>
                <td>{keeps && <Button onClick={() => setOpen({ person: p })}>Change</Button>}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {keeps && <p className="buttons"><Button onClick={() => setOpen({})}>Add somebody</Button></p>}
        <h2>What acting costs</h2>
        <p><Link className="back" to="/firm/prices">Prices behind the check and treat thresholds</Link></p>
        <h2>Who may do what</h2>
        <table className="matrix">
          <thead><tr><td />{roles.map((r) => <th key={r} scope="col">{r}</th>)}</tr></thead>
          <tbody>{rightsOf.map(([r, l]) => <tr key={r}><th scope="row">{l}</th>{roles.map((role) => <td key={role} aria-label={roleRights[role].includes(r) ? 'yes' : 'no'}>{roleRights[role].includes(r) ? '●' : '·'}</td>)}</tr>)}</tbody>
        </table>
      </div>
      <div>
        {open ? <PersonForm key={open.person?.id ?? 'new'} person={open.person} onClose={() => setOpen((now) => (now === open ? undefined : now))} /> : (
          <>
            <Settings key={firm.data.version} firm={firm.data} may={me.rights.includes('keep-firm')} />
            {mine && <Mine mine={mine} />}
          </>
        )}
      </div>
    </main>
  )
}
