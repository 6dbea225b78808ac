import { useState } from 'react'
import { Button, Input } from 'antd'
import { Link } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useMe, useRefresh } from '../api/queries'
import { readNumber, showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { Day, Pick, Text, Tick } from '../ui/Field'
import './firm.css'

type Rule = Schemas['LocalRule']
type Machine = Schemas['Machine']

const whats = [
  ['blackout', 'Closed season'],
  ['most-at-once', 'Most at once'],
  ['most-a-year', 'Most a year'],
  ['phosphorus-test', 'Phosphorus only by soil test'],
  ['watering-days', 'Watering days and hours'],
  ['posting', 'A sign is put up'],
  ['notice', 'Neighbours are told before'],
  ['buffer', 'Distance to water'],
  ['rain', 'Not before heavy rain'],
  ['wind', 'Most wind for spraying'],
  ['frozen', 'Not on frozen or waterlogged ground'],
  ['locate', 'How long located lines hold'],
] as const

/** The unit of a rule's figure; rules without one have none. */
const amounts: Record<string, string> = {
  'most-at-once': 'g/m²',
  'most-a-year': 'g/m²',
  notice: 'hours',
  buffer: 'm',
  rain: 'mm in a day',
  wind: 'm/s',
  locate: 'days',
}
const covers = ['nitrogen', 'phosphorus', 'fertilizer', 'pesticide', 'herbicide', 'insecticide', 'fungicide']
const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun']
const years = [
  ['', 'calendar year'],
  ['rolling', 'twelve months back'],
  ['season', 'season: July to June in the south'],
] as const

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const dayOfYear = (text: string): string => `${Number(text.slice(3, 5))} ${months[Number(text.slice(0, 2)) - 1] ?? ''}`

/** A rule in one line. */
export function inWords(r: Rule['rule']): string {
  const parts = [
    r.from && r.to ? `${dayOfYear(r.from)} to ${dayOfYear(r.to)}` : '',
    r.amount ? `${r.amount} ${amounts[r.what] ?? ''}` : '',
    r.what === 'most-a-year' ? (years.find(([id]) => id === (r.year ?? ''))?.[1] ?? '') : '',
    r.days?.length ? r.days.join(', ') : '',
    r.hours?.length === 2 ? `${r.hours[0]} to ${r.hours[1]} h` : '',
    r.covers?.length ? r.covers.join(', ') : '',
  ]
  return parts.filter(Boolean).join(' · ')
}

function RuleForm({ rule, onDone }: { rule?: Rule; onDone: () => void }) {
  const refresh = useRefresh()
  const [key] = useState(() => rule?.id ?? newId())
  const [r, setR] = useState<Rule['rule']>(rule?.rule ?? { name: '', place: '', what: 'blackout' })
  const [active, setActive] = useState(rule?.active ?? true)
  const [amount, setAmount] = useState(r.amount ? String(r.amount) : '')
  const [hours, setHours] = useState((r.hours ?? []).join('-'))
  const save = useMutation({
    mutationFn: () => {
      const h = hours.split(/[-–]/).map((x) => readNumber(x))
      const body = {
        id: key,
        active,
        version: rule?.version ?? 0,
        rule: {
          ...r,
          amount: readNumber(amount) ?? 0,
          ...(hours.trim() && { hours: h.map((x) => x ?? -1) }),
        },
      }
      return got(api.PUT('/rules/{id}', { params: { path: { id: key } }, body }))
    },
    onSuccess: () => {
      void refresh()
      onDone()
    },
  })
  const toggle = (list: string[] | undefined, x: string) => (list?.includes(x) ? list.filter((y) => y !== x) : [...(list ?? []), x])
  return (
    <form
      className="rule-form"
      aria-label="Local rule"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <div className="fields">
        <Text label="Name" required value={r.name} onChange={(name) => setR({ ...r, name })} />
        <Text label="Place" value={r.place} onChange={(place) => setR({ ...r, place })} hint="as on the sites; empty for everywhere" />
        <Pick label="About" value={r.what as (typeof whats)[number][0]} onChange={(what) => setR({ ...r, what })} options={whats} />
        {r.what === 'blackout' && (
          <>
            <Text label="From (MM-DD)" value={r.from ?? ''} onChange={(from) => setR({ ...r, from })} />
            <Text label="To (MM-DD)" value={r.to ?? ''} onChange={(to) => setR({ ...r, to })} />
          </>
        )}
        {amounts[r.what] && <Text label="Figure" unit={amounts[r.what]} value={amount} onChange={setAmount} />}
        {r.what === 'most-a-year' && (
          <Pick label="Counted by" value={r.year ?? ''} onChange={(year) => setR({ ...r, year })} options={years} />
        )}
        {r.what === 'watering-days' && <Text label="Hours" value={hours} onChange={setHours} hint="like 19-9" />}
        <Text label="Where it stands" value={r.source ?? ''} onChange={(source) => setR({ ...r, source })} />
      </div>
      {r.what === 'watering-days' && (
        <div className="ticks">
          {weekdays.map((x) => (
            <Tick key={x} label={x} value={r.days?.includes(x) ?? false} onChange={() => setR({ ...r, days: toggle(r.days, x) })} />
          ))}
        </div>
      )}
      {r.what !== 'watering-days' && r.what !== 'phosphorus-test' && r.what !== 'locate' && (
        <div className="ticks">
          {covers.map((x) => (
            <Tick key={x} label={x} value={r.covers?.includes(x) ?? false} onChange={() => setR({ ...r, covers: toggle(r.covers, x) })} />
          ))}
        </div>
      )}
      {rule && <Tick label="In force" value={active} onChange={setActive} />}
      {save.isError && <Problem error={save.error} />}
      <p className="buttons">
        <Button type="primary" htmlType="submit" loading={save.isPending}>
          Keep the rule
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </form>
  )
}

const machineKinds = [
  ['sprayer', 'sprayer'],
  ['spreader', 'spreader'],
  ['corer', 'corer'],
  ['dethatcher', 'dethatcher'],
  ['seeder', 'seeder'],
  ['mower', 'mower'],
  ['other', 'other'],
] as const
const logKinds = [
  ['calibration', 'calibrated'],
  ['blades', 'blades'],
  ['oil', 'oil'],
  ['wheels', 'wheels'],
  ['gate', 'gate'],
  ['repair', 'repaired'],
  ['other', 'other'],
] as const

function MachineCard({ m, me }: { m: Machine; me: Schemas['Me'] }) {
  const refresh = useRefresh()
  const [d, setD] = useState({ kind: 'calibration' as (typeof logKinds)[number][0], day: me.today, output: '', note: '' })
  const [open, setOpen] = useState(false)
  const log = useMutation({
    mutationFn: () =>
      got(
        api.POST('/machines/{id}/log', {
          params: { path: { id: m.id } },
          body: {
            id: newId(),
            day: d.day,
            kind: d.kind,
            note: d.note,
            ...(d.kind === 'calibration' && readNumber(d.output) !== undefined && { output: readNumber(d.output) }),
          },
        }),
      ),
    onSuccess: () => {
      void refresh()
      setOpen(false)
    },
  })
  const broken = useMutation({
    mutationFn: () =>
      got(
        api.PUT('/machines/{id}', {
          params: { path: { id: m.id } },
          body: { id: m.id, name: m.name, kind: m.kind, note: m.note ?? '', broken: !m.broken, version: m.version },
        }),
      ),
    onSuccess: refresh,
  })
  const calibrated = m.log?.find((x) => x.kind === 'calibration')
  const unit = m.kind === 'sprayer' ? 'L/100 m²' : 'g/m²'
  const off = m.used !== undefined && Math.abs(m.used - 1) >= 0.03 ? m.used : undefined
  // what it has really put down, by what was used on its jobs since then
  const real = off !== undefined && calibrated?.output ? Number((calibrated.output * off).toPrecision(3)) : undefined
  return (
    <li data-broken={m.broken}>
      <b>{m.name}</b> <span className="faint">{m.kind}</span> {m.broken && <b className="stopped">out of order</b>}
      <br />
      <span className="faint">
        {m.note}
        {calibrated
          ? `${m.note ? ', ' : ''}calibrated on ${showDate(calibrated.day, me.date_form)}${calibrated.output ? ` at ${calibrated.output} ${unit}` : ''}`
          : ''}
        {off !== undefined &&
          `. It puts down ${Math.round(Math.abs(off - 1) * 100)} % ${off > 1 ? 'more' : 'less'} than planned${real ? `: ${real} ${unit} by what was used` : ': calibrate it'}`}
      </span>
      <p className="buttons">
        {me.rights.includes('record-treatment') && <Button onClick={() => setOpen(!open)}>Log</Button>}
        {me.rights.includes('record-treatment') && real !== undefined && (
          <Button
            onClick={() => {
              setD({ kind: 'calibration', day: me.today, output: String(real), note: 'by what was used on jobs' })
              setOpen(true)
            }}
          >
            Count with {real} {unit}
          </Button>
        )}
        {me.rights.includes('keep-shelf') && (
          <Button loading={broken.isPending} onClick={() => broken.mutate()}>
            {m.broken ? 'Works again' : 'Out of order'}
          </Button>
        )}
      </p>
      {open && (
        <form
          aria-label={`Log of ${m.name}`}
          onSubmit={(e) => {
            e.preventDefault()
            log.mutate()
          }}
        >
          <div className="fields">
            <Pick label="What" value={d.kind} onChange={(kind) => setD({ ...d, kind })} options={logKinds} />
            <Day label="On" value={d.day} form={me.date_form} max={me.today} onChange={(day) => setD({ ...d, day })} />
            {d.kind === 'calibration' && <Text label="Output" unit={unit} value={d.output} onChange={(output) => setD({ ...d, output })} />}
            <Text label="Note" value={d.note} onChange={(note) => setD({ ...d, note })} />
          </div>
          {log.isError && <Problem error={log.error} />}
          <Button type="primary" htmlType="submit" loading={log.isPending}>
            Keep
          </Button>
        </form>
      )}
    </li>
  )
}

/** Local rules as the firm has entered them, and its machines. */
export default function Rules() {
  const me = useMe().data
  const refresh = useRefresh()
  const rules = useQuery({ queryKey: ['rules'], queryFn: () => got(api.GET('/rules')) })
  const machines = useQuery({ queryKey: ['machines'], queryFn: () => got(api.GET('/machines')) })
  const [open, setOpen] = useState('')
  const [name, setName] = useState('')
  const [kind, setKind] = useState<(typeof machineKinds)[number][0]>('sprayer')
  const add = useMutation({
    mutationFn: () => {
      const id = newId()
      return got(api.PUT('/machines/{id}', { params: { path: { id } }, body: { id, name, kind, note: '', broken: false, version: 0 } }))
    },
    onSuccess: () => {
      setName('')
      void refresh()
    },
  })
  if (rules.isLoadingError || machines.isLoadingError) return <Problem error={rules.error ?? machines.error} />
  if (!rules.data || !machines.data || !me) return <Busy what="rules and machines" />
  const may = me.rights.includes('keep-shelf')
  return (
    <main className="rules">
      <p>
        <Link to="/firm">Firm</Link>
      </p>
      <h1>Local rules</h1>
      <p className="faint">
        What the law of a place says, as your firm has entered it. Jobs are held against it; nobody passes law or label. It does not stand
        in for the law itself.
      </p>
      <table className="rule-list">
        <tbody>
          {rules.data.map((r) => (
            <tr key={r.id} data-rule={r.id} data-off={!r.active}>
              <td>
                <b>{r.rule.name}</b>
                <br />
                <span className="faint">{[r.rule.place || 'everywhere', r.rule.source].filter(Boolean).join(', ')}</span>
              </td>
              <td>
                {whats.find(([id]) => id === r.rule.what)?.[1]}
                <br />
                <span className="num faint">{inWords(r.rule)}</span>
              </td>
              <td>{!r.active && 'not in force'}</td>
              <td>{may && <Button onClick={() => setOpen(open === r.id ? '' : r.id)}>Change</Button>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rules.data.length === 0 && <p className="empty">No rule has been entered.</p>}
      {may && open === '' && (
        <p className="buttons">
          <Button onClick={() => setOpen('new')}>New rule</Button>
        </p>
      )}
      {open !== '' && <RuleForm key={open} {...withRule(rules.data.find((r) => r.id === open))} onDone={() => setOpen('')} />}
      <h1>Machines</h1>
      <ul className="machines">
        {machines.data.map((m) => (
          <MachineCard key={m.id} m={m} me={me} />
        ))}
      </ul>
      {may && (
        <form
          className="machine-new"
          aria-label="New machine"
          onSubmit={(e) => {
            e.preventDefault()
            add.mutate()
          }}
        >
          <Input aria-label="Name of the machine" placeholder="name" value={name} onChange={(e) => setName(e.target.value)} />
          <select className="plain" aria-label="Kind of machine" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
            {machineKinds.map(([v, l]) => (
              <option key={v} value={v}>
                {l}
              </option>
            ))}
          </select>
          <Button htmlType="submit" disabled={name.trim() === ''} loading={add.isPending}>
            Add
          </Button>
        </form>
      )}
      {add.isError && <Problem error={add.error} />}
    </main>
  )
}

const withRule = (rule: Rule | undefined) => (rule ? { rule } : {})
