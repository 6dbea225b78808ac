import { useState } from 'react'
import { Link } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { queryClient } from '../api/queries'
import { count, daysBetween, showDate, type DateForm } from '../format'
import { Problem } from '../Shell'
import { grouped, type Group } from './grouped'

const again = () => queryClient.invalidateQueries({ queryKey: ['day'] })

type Thing = { kind: Schemas['DayNotice']['kind']; subject: string }

/** How many lawns of a thing stand beside those that the page has. */
const left = (day: Schemas['Day'], g: Group, fresh: boolean) =>
  day.notices_left.find((l) => l.kind === g.kind && l.subject === g.subject && l.new === fresh)?.left ?? 0
const lawns = (day: Schemas['Day'], groups: Group[], fresh: boolean) =>
  groups.reduce((n, g) => n + g.notices.length + left(day, g, fresh), 0)

/** What the watch has found by night: told once, put away when somebody has noted it, standing until it ends. */
export function Watch({ day, me }: { day: Schemas['Day']; me: Schemas['Me'] }) {
  const [open, setOpen] = useState(false)
  const may = me.rights.includes('book-visits')
  const fresh = grouped(day.notices.filter((n) => n.new))
  const rest = grouped(day.notices.filter((n) => !n.new))
  const noted = useMutation({ mutationFn: (thing: Thing) => got(api.POST('/watch/noted', { body: thing })), onSuccess: again })
  const look = useMutation({
    mutationFn: async () => {
      const before = day.watch?.at
      await got(api.POST('/watch', {}))
      for (let tries = 0; tries < 20; tries++) {
        // until the round has begun; from then on the page follows it by itself
        await new Promise((r) => {
          setTimeout(r, 400)
        })
        const now = await got(api.GET('/day'))
        if (now.watch?.at === before) continue
        await again()
        return
      }
      throw new Error('The check is queued and will run as soon as a server is free')
    },
  })
  const w = day.watch
  if (!w) return null
  return (
    <section className="watch" aria-label="Overnight">
      <h2>
        Overnight <small className="num faint">{count(lawns(day, fresh, true))}</small>
      </h2>
      {noted.isError && <Problem error={noted.error} />}
      {fresh.length === 0 && <p className="faint">Nothing new has opened.</p>}
      <ul className="told">
        {fresh.map((g) => (
          <Told
            key={g.key}
            g={g}
            today={day.today}
            form={me.date_form}
            left={left(day, g, true)}
            onNoted={may ? () => noted.mutate({ kind: g.kind, subject: g.subject }) : undefined}
            busy={noted.isPending}
          />
        ))}
      </ul>
      {rest.length > 0 && (
        <button type="button" className="quiet stands" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Hide' : 'Show'} earlier notices ({count(lawns(day, rest, false))})
        </button>
      )}
      {open && (
        <ul className="told">
          {rest.map((g) => (
            <Told key={g.key} g={g} today={day.today} form={me.date_form} left={left(day, g, false)} />
          ))}
        </ul>
      )}
      <p className="watch-foot faint">
        {w.finished ? (
          <>
            Checked {w.sites === 1 ? 'one site' : `${count(w.sites)} sites`} for {showDate(w.day, me.date_form)}
            {w.unchanged > 0 && `, ${count(w.unchanged)} of ${count(w.zones)} lawns unchanged`}.
          </>
        ) : (
          <>
            <progress value={w.sites_done} max={Math.max(1, w.sites)} aria-label="Checking" /> Checking: {count(w.sites_done)} of{' '}
            {count(w.sites)} sites
          </>
        )}
        {may && w.finished && (
          <button type="button" className="quiet" disabled={look.isPending} onClick={() => look.mutate()}>
            Check now
          </button>
        )}
      </p>
      {look.isError && <Problem error={look.error} />}
    </section>
  )
}

/** How many lawns of one thing are listed before somebody asks for all of them. */
const most = 6

function since(n: Schemas['DayNotice'], today: string, form: DateForm): string {
  if (n.kind === 'frost') return showDate(n.comes_on ?? n.since, form, true)
  const d = daysBetween(n.since, today)
  return d < 0 ? `from ${showDate(n.since, form, true)}` : d === 0 ? 'since today' : `since ${showDate(n.since, form)}`
}

function Told({
  g,
  today,
  form,
  left,
  onNoted,
  busy,
}: {
  g: Group
  today: string
  form: DateForm
  left: number
  onNoted?: (() => void) | undefined
  busy?: boolean
}) {
  const [all, setAll] = useState(false)
  const whole = useQuery({
    queryKey: ['day', 'notices', g.kind, g.subject],
    queryFn: () => got(api.GET('/watch/notices', { params: { query: { kind: g.kind, subject: g.subject } } })),
    enabled: all && left > 0,
  })
  const one = g.notices[0]
  if (!one) return null
  const of = g.notices.length + left
  const shown = !all ? g.notices.slice(0, most) : left > 0 ? (whole.data?.filter((n) => n.new === one.new) ?? g.notices) : g.notices
  return (
    <li data-level={g.level} data-kind={one.kind}>
      <div className="told-head">
        <b>{one.label}</b>{' '}
        <span className="faint num">
          {since(one, today, form)}
          {of > 1 && `, ${count(of)} lawns`}
        </span>
        {onNoted && (
          <button type="button" className="plain-button" disabled={busy} aria-label={`Noted: ${one.label}`} onClick={onNoted}>
            Noted
          </button>
        )}
      </div>
      {g.reason && <p>{g.reason}.</p>}
      <ul className="told-where" data-wrap={g.reason !== ''}>
        {shown.map((n) => (
          <li key={n.id}>
            <Link to={`/zones/${n.zone_id}/sky`} data-level={n.level}>
              {n.site_name}, {n.zone_name}
            </Link>
            {!g.reason && <span className="told-why">{n.reason}</span>}
            {n.kind === 'window' && n.level > 1 && <span className="faint"> was here before</span>}
            {n.noted_by && <span className="faint"> noted by {n.noted_by}</span>}
          </li>
        ))}
        {whole.isError && (
          <li>
            <Problem error={whole.error} />
          </li>
        )}
        {shown.length < of && (
          <li>
            <button
              type="button"
              className="quiet"
              disabled={all && whole.isFetching}
              onClick={() => {
                setAll(true)
                if (whole.isError) void whole.refetch()
              }}
            >
              and {count(of - shown.length)} more
            </button>
          </li>
        )}
      </ul>
    </li>
  )
}
