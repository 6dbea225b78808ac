import type { Schemas } from '../api/client'
import { showDate, type DateForm } from '../format'
import { hasNews } from './words'
import './client.css'

interface Props {
  page: Schemas['ClientPage']
  /** where a picture is fetched from */
  picture: (id: string) => string
}

/** What a link shows that has ended. */
export function Closed() {
  return (
    <main className="fallen">
      <h1>This page is closed</h1>
      <p>The link has run out or was withdrawn. Ask whoever sent it to you for a new one.</p>
    </main>
  )
}

/** The firm's letterhead. */
export function Head({ firm }: { firm: Schemas['ClientFirm'] }) {
  return (
    <header className="letter-head">
      <b>{firm.name}</b>
      <p>
        {firm.phone && <a href={`tel:${firm.phone}`}>{firm.phone}</a>}
        {firm.email && <a href={`mailto:${firm.email}`}>{firm.email}</a>}
        {firm.address && <span>{firm.address}</span>}
        {firm.website && <span>{firm.website}</span>}
      </p>
    </header>
  )
}

/** What a client gets to read of their lawns: one sheet a lawn, in plain words. */
export function Letter({ page: p, picture }: Props) {
  const quiet = p.zones.filter((z) => !hasNews(z))
  return (
    <article className="letter" lang="en">
      <Head firm={p.firm} />
      <h1>Your lawn at {p.site}</h1>
      <p className="letter-for">
        {p.client}
        {', '}
        <span className="num">{showDate(p.made_on, p.date_form)}</span>
      </p>
      {p.zones.filter(hasNews).map((z) => (
        <Lawn key={z.id} z={z} p={p} picture={picture} />
      ))}
      {quiet.length > 0 && (
        <p className="letter-quiet">
          {quiet.map((z) => z.name).join(', ')}: nothing to report.
          {quiet[0]?.visit_on && ` We look at ${quiet.length === 1 ? 'it' : 'them'} on ${showDate(quiet[0].visit_on, p.date_form)}.`}
        </p>
      )}
      {p.firm.poison_centre && (
        <footer>
          Poison centre: <a href={`tel:${p.firm.poison_centre}`}>{p.firm.poison_centre}</a>
        </footer>
      )}
    </article>
  )
}

function Lawn({ z, p, picture }: { z: Schemas['ClientZone']; p: Schemas['ClientPage']; picture: (id: string) => string }) {
  const form = p.date_form
  const f = z.found
  return (
    <section className="lawn" aria-label={z.name} data-lawn={z.name}>
      <p className="lawn-name">
        {z.name} <span>{z.grass.join(', ').toLowerCase()}</span>
      </p>
      {z.closed && (
        <p className="lawn-closed" role="status">
          {z.closed.says}
        </p>
      )}
      {f && <Found f={f} />}
      {z.course && <Green c={z.course} form={form} />}
      {z.pictures.length > 0 && (
        <div className="lawn-pictures">
          {z.pictures.map((x) => (
            <figure key={x.id}>
              <img src={picture(x.id)} alt={`${z.name} on ${showDate(x.taken_on, form)}`} loading="lazy" />
              <figcaption>
                {showDate(x.taken_on, form)}
                {x.cover !== undefined && `: ${Math.round(x.cover * 100)} % green`}
              </figcaption>
            </figure>
          ))}
        </div>
      )}
      {z.tasks.length > 0 && (
        <div className="parts">
          <Part title="Please do" tasks={z.tasks.filter((t) => !t.not)} today={p.made_on} />
          <Part title="Please do not" tasks={z.tasks.filter((t) => t.not)} today={p.made_on} />
        </div>
      )}
      {f && !f.past && f.back && (
        <p>
          <b>Will it come back?</b> {f.back}
        </p>
      )}
      <Work z={z} form={form} />
    </section>
  )
}

function Found({ f }: { f: Schemas['ClientFound'] }) {
  if (f.past)
    return (
      <p>
        <b>{f.label}.</b> {f.says} {f.what} {f.back}
      </p>
    )
  return (
    <>
      <h2>{f.label}</h2>
      <p className="lawn-what">
        <b>{f.says}</b> {f.what}
      </p>
      {f.why && (
        <p data-why>
          <b>How we know:</b> {f.why}
        </p>
      )}
      <p>
        <b>What ends it:</b> {f.ends}
      </p>
      {f.not.length > 0 && <p className="faint">It is not {f.not.map((x) => x.toLowerCase()).join(', nor ')}.</p>}
    </>
  )
}

/** How green it is, on its way from where it began to where it is to be. */
function Green({ c, form }: { c: Schemas['ClientCourse']; form: DateForm }) {
  const began = c.measures[0]?.cover ?? 0
  const at = (share: number) => `${Math.min(100, share * 100)}%`
  return (
    <div className="green-way">
      <div
        className="green-bar"
        role="img"
        aria-label={`${Math.round(c.cover * 100)} per cent green on ${showDate(c.measured_on, form)}; it began at ${Math.round(began * 100)}, the aim is ${Math.round(c.target * 100)}`}
      >
        <span className="green-now" style={{ width: at(c.cover) }} />
        <span className="green-began" style={{ left: at(began) }} />
        <span className="green-aim" style={{ left: at(c.target) }} />
      </div>
      <p className="green-marks" aria-hidden>
        <span style={{ left: at(began) }}>began</span>
        <span style={{ left: at(c.target) }}>goal</span>
      </p>
      <p>
        <b className="num">{Math.round(c.cover * 100)} % green</b> on {showDate(c.measured_on, form)}, from {Math.round(began * 100)} % on{' '}
        {showDate(c.started_on, form)}. {c.says}
      </p>
    </div>
  )
}

function Part({ title, tasks, today }: { title: string; tasks: Schemas['ClientTask'][]; today: string }) {
  if (tasks.length === 0) return null
  return (
    <section className="part" aria-label={title} data-not={tasks[0]?.not}>
      <h3>{title}</h3>
      <ul>
        {tasks.map((t) => (
          <li key={t.text} data-now={t.from <= today}>
            <span className="num">{t.when}</span>
            {t.text}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What was done, what is booked, and when somebody comes. */
function Work({ z, form }: { z: Schemas['ClientZone']; form: DateForm }) {
  if (z.done.length + z.booked.length === 0 && !z.visit_on) return null
  return (
    <section aria-label="Done and planned">
      <h3>Done and planned</h3>
      <ul className="lawn-work">
        {z.done.map((w) => (
          <li key={`${w.on}${w.action}`}>
            <span className="num">{showDate(w.on, form)}</span> {w.label}
            {w.product && <span className="faint">, {w.product}</span>}
          </li>
        ))}
        {z.visit_on && (
          <li data-ahead>
            <span className="num">{showDate(z.visit_on, form)}</span> Our next visit
          </li>
        )}
        {z.booked.map((w) => (
          <li key={`${w.on}${w.action}`} data-ahead>
            <span className="num">{showDate(w.on, form)}</span> {w.label}, planned
          </li>
        ))}
      </ul>
    </section>
  )
}
