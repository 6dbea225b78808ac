import { useState } from 'react'
import { Button } from 'antd'
import { Link } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient, useFirm, useMe, usePeople, useRefresh, useWords } from '../api/queries'
import { readNumber, showDate, type DateForm } from '../format'
import { Busy, Problem } from '../Shell'
import { Buttons, Day, Password, Pick, Text, Tick } from '../ui/Field'
import '../account/account.css'
import './firm.css'

type Person = Schemas['Person']
const roles = [
  ['office', 'office'],
  ['technician', 'technician'],
  ['applicator', 'applicator'],
  ['owner', 'owner'],
] as const
const forms = [
  ['dmy', 'day month year'],
  ['mdy', 'month day, year'],
  ['ymd', 'year-month-day'],
] as const
const systems = [
  ['metric', 'metric'],
  ['us', 'US customary'],
] as const

/** A link with which somebody sets their own password: nobody else ever knows it. */
function PasswordLink({ person }: { person: Person }) {
  const send = useMutation({
    mutationFn: () => got(api.POST('/people/{id}/password-link', { params: { path: { id: person.id } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['letters'] }),
  })
  const address = send.data?.path ? location.origin + send.data.path : ''
  return (
    <section aria-label="Password link">
      <p className="faint">
        {person.has_password ? 'Has set a password.' : 'Has not set a password yet.'} A link lets them set a new one, once, within a day.
      </p>
      {send.isError && <Problem error={send.error} />}
      {send.data?.sent && (
        <p className="done" role="status">
          Sent to {person.email}.
        </p>
      )}
      {address && (
        <p role="status">
          Hand this link over; it is shown only now:
          <br />
          <code className="link-once">{address}</code>{' '}
          <Button size="small" onClick={() => void navigator.clipboard.writeText(address)}>
            Copy
          </Button>
        </p>
      )}
      <p className="buttons">
        <Button loading={send.isPending} onClick={() => send.mutate()}>
          Send a password link
        </Button>
      </p>
    </section>
  )
}

/** For somebody who has lost phone and recovery codes. */
function LostFactor({ person }: { person: Person }) {
  const refresh = useRefresh()
  const [current, setCurrent] = useState('')
  const end = useMutation({
    mutationFn: () => got(api.POST('/people/{id}/second-factor/end', { params: { path: { id: person.id } }, body: { current } })),
    onSuccess: refresh,
  })
  return (
    <form
      aria-label="Lost second factor"
      onSubmit={(e) => {
        e.preventDefault()
        end.mutate()
      }}
    >
      <p className="faint">Signs in with a second factor. If they have lost phone and recovery codes, turn it off for them.</p>
      <Password label="Your own password" value={current} onChange={setCurrent} />
      <Buttons save="Turn off their second factor" pending={end.isPending} error={end.error} />
    </form>
  )
}

function PersonForm({
  person,
  form,
  onClose,
  onSaved,
}: {
  person?: Person
  form: DateForm
  onClose: () => void
  onSaved: (p: Person) => void
}) {
  const refresh = useRefresh()
  const [d, setD] = useState<Person>(
    person ?? {
      id: newId(),
      name: '',
      email: '',
      role: 'technician',
      licence_number: '',
      licence_until: '',
      unit_system: '',
      date_form: '',
      active: true,
      version: 0,
    },
  )
  const save = useMutation({
    mutationFn: () =>
      got(
        person
          ? api.PUT('/people/{id}', { params: { path: { id: d.id } }, body: { ...d, licence_until: d.licence_until ?? '' } })
          : api.POST('/people', { body: { ...d, licence_until: d.licence_until ?? '' } }),
      ),
    onSuccess: async (p) => {
      await refresh()
      if (person) onClose()
      else onSaved(p)
    },
  })
  return (
    <div className="form side">
      <form
        aria-label="Person"
        onSubmit={(e) => {
          e.preventDefault()
          save.mutate()
        }}
      >
        <h2>{person ? 'Edit person' : 'New person'}</h2>
        <Text label="Name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
        <Text label="Email" type="email" required value={d.email} onChange={(email) => setD({ ...d, email })} />
        <Pick label="Role" value={d.role} onChange={(role) => setD({ ...d, role })} options={roles} />
        <Text label="Licence number" value={d.licence_number} onChange={(licence_number) => setD({ ...d, licence_number })} />
        <Day
          label="Licence valid until"
          form={form}
          value={d.licence_until ?? ''}
          onChange={(licence_until) => setD({ ...d, licence_until })}
        />
        <Tick label="May sign in" value={d.active} onChange={(active) => setD({ ...d, active })} />
        {!person && <p className="faint">They set their own password: send them a link once they are saved.</p>}
        <Buttons pending={save.isPending} error={save.error} onClose={onClose} />
      </form>
      {person?.active && <PasswordLink person={person} />}
      {person?.second_factor && <LostFactor person={person} />}
    </div>
  )
}

function Settings({ firm, may }: { firm: Schemas['FirmSettings']; may: boolean }) {
  const refresh = useRefresh()
  const [d, setD] = useState(firm)
  const [hours, setHours] = useState(String(firm.work_hours))
  const save = useMutation({
    mutationFn: () => got(api.PUT('/firm', { body: { ...d, work_hours: readNumber(hours) ?? Number.NaN, version: firm.version } })),
    onSuccess: refresh,
  })
  return (
    <form
      className="form"
      aria-label="Firm settings"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>The firm</h2>
      <Text label="Firm name" required disabled={!may} value={d.name} onChange={(name) => setD({ ...d, name })} />
      <div className="fields">
        <Text
          label="Country"
          required
          disabled={!may}
          value={d.country}
          onChange={(country) => setD({ ...d, country: country.toUpperCase().slice(0, 2) })}
        />
        <Text
          label="Currency"
          required
          disabled={!may}
          value={d.currency}
          onChange={(currency) => setD({ ...d, currency: currency.toUpperCase().slice(0, 3) })}
        />
        <Text
          label="Poison centre, telephone"
          disabled={!may}
          value={d.poison_centre ?? ''}
          onChange={(poison_centre) => setD({ ...d, poison_centre })}
        />
        <Text label="Office time zone" disabled={!may} value={d.timezone} onChange={(timezone) => setD({ ...d, timezone })} />
        <Pick label="Dates" disabled={!may} value={d.date_form} onChange={(date_form) => setD({ ...d, date_form })} options={forms} />
        <Pick
          label="Units"
          disabled={!may}
          value={d.unit_system}
          onChange={(unit_system) => setD({ ...d, unit_system })}
          options={systems}
        />
      </div>
      <h3>On letters to clients</h3>
      <div className="fields">
        <Text label="Telephone" disabled={!may} value={d.phone ?? ''} onChange={(phone) => setD({ ...d, phone })} />
        <Text label="Email" type="email" disabled={!may} value={d.email ?? ''} onChange={(email) => setD({ ...d, email })} />
        <Text label="Address" disabled={!may} value={d.address ?? ''} onChange={(address) => setD({ ...d, address })} />
        <Text label="Website" disabled={!may} value={d.website ?? ''} onChange={(website) => setD({ ...d, website })} />
      </div>
      <h3>Crew</h3>
      <div className="fields">
        <Text
          label="Work of one person in a day"
          hint="without driving and breaks"
          unit="h"
          disabled={!may}
          value={hours}
          onChange={setHours}
        />
        <fieldset className="week" disabled={!may}>
          <legend>Days worked</legend>
          {weekdays.map((name, i) => (
            <Tick
              key={name}
              label={name}
              disabled={!may}
              value={(d.work_days & (1 << i)) > 0}
              onChange={(on) => setD({ ...d, work_days: on ? d.work_days | (1 << i) : d.work_days & ~(1 << i) })}
            />
          ))}
        </fieldset>
      </div>
      <h3>Records</h3>
      <div className="fields">
        <Pick
          label="Treatment records keep the client’s name for"
          hint="after a client is erased; as long as your law asks for it"
          disabled={!may}
          value={String(d.keep_records_years)}
          onChange={(n) => setD({ ...d, keep_records_years: Number(n) })}
          options={[1, 2, 3, 4, 5, 6, 7, 8, 10, 15, 20, 30].map((n) => [String(n), n === 1 ? 'a year' : `${n} years`] as const)}
        />
      </div>
      <Tick
        label="Owners sign in with a second factor"
        disabled={!may}
        value={d.owners_second_factor}
        onChange={(owners_second_factor) => setD({ ...d, owners_second_factor })}
      />
      {may && <Buttons save="Save the firm" pending={save.isPending} error={save.error} />}
    </form>
  )
}

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

export default function Firm() {
  const me = useMe().data
  const people = usePeople()
  const firm = useFirm()
  const words = useWords()
  const [open, setOpen] = useState<{ person?: Person } | undefined>()
  if (people.isLoadingError || firm.isLoadingError) return <Problem error={people.error ?? firm.error} />
  if (!people.data || !firm.data || !me) return <Busy what="the firm" />
  const keeps = me.rights.includes('keep-people')
  return (
    <main className="firm">
      <div>
        <h1>People</h1>
        <table>
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Role</th>
              <th scope="col">Licence</th>
              <th scope="col">
                <span className="unseen">Change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {people.data.map((p) => (
              <tr key={p.id} data-active={p.active}>
                <th scope="row">
                  {p.name}
                  <span className="faint">{p.email}</span>
                </th>
                <td>
                  {p.role}
                  <span className="faint">
                    {!p.active ? 'no access' : !p.has_password ? 'no password yet' : p.second_factor ? 'second factor' : ''}
                  </span>
                </td>
                <td className="num">
                  {p.licence_number ? (
                    <>
                      {p.licence_number}
                      <span className="faint" data-over={(p.licence_until ?? '') < me.today}>
                        {(p.licence_until ?? '') < me.today ? 'expired ' : 'until '}
                        {showDate(p.licence_until, me.date_form)}
                      </span>
                    </>
                  ) : (
                    '–'
                  )}
                </td>
                <td>{keeps && <Button onClick={() => setOpen({ person: p })}>Change</Button>}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {keeps && (
          <p className="buttons">
            <Button onClick={() => setOpen({})}>Add somebody</Button>
          </p>
        )}
        {me.rights.includes('keep-sites') && (
          <p>
            <Link className="back" to="/firm/figures">
              Figures: what was found, how often it was right, how lawns recover
            </Link>
          </p>
        )}
        <p>
          <Link className="back" to="/messages">
            Letters to clients: weather that is coming, visits of tomorrow
          </Link>
        </p>
        {me.demo && (
          <p>
            <Link className="back" to="/firm/letters">
              Letters that the demo would have sent
            </Link>
          </p>
        )}
        <h2>Work and law</h2>
        <p>
          <Link className="back" to="/firm/rules">
            Local rules and machines
          </Link>
        </p>
        <p>
          <Link className="back" to="/book">
            Book of applications
          </Link>
        </p>
        <h2>What acting costs</h2>
        <p>
          <Link className="back" to="/firm/prices">
            Prices behind the check and treat thresholds
          </Link>
        </p>
        {me.rights.includes('see-log') && (
          <>
            <h2>Safety</h2>
            <p>
              <Link className="back" to="/firm/log">
                Account log: who signed in, and what was changed
              </Link>
            </p>
          </>
        )}
        <h2>Who may do what</h2>
        <table className="matrix">
          <thead>
            <tr>
              <td />
              {words?.raw.roles.map((r) => (
                <th key={r.id} scope="col">
                  {r.id}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {words?.raw.rights.map((r) => (
              <tr key={r.id}>
                <th scope="row">{r.label}</th>
                {words.raw.roles.map((role) => (
                  <td key={role.id} aria-label={role.rights.includes(r.id) ? 'yes' : 'no'}>
                    {role.rights.includes(r.id) ? '●' : '·'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div>
        {open ? (
          <PersonForm
            key={open.person?.id ?? 'new'}
            person={open.person}
            form={me.date_form}
            onSaved={(person) => setOpen({ person })}
            onClose={() => setOpen((now) => (now === open ? undefined : now))}
          />
        ) : (
          <>
            <Settings key={firm.data.version} firm={firm.data} may={me.rights.includes('keep-firm')} />
            <p>
              <Link className="back" to="/account">
                Your own units, password and second factor
              </Link>
            </p>
          </>
        )}
      </div>
    </main>
  )
}
