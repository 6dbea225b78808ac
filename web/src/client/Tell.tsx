import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, Refused, type Schemas } from '../api/client'
import { newId } from '../api/queries'
import { showDate } from '../format'
import { base64 } from '../offline/base64'
import { unfit, unreadable } from '../photo/facts'
import { reduced } from '../photo/reduce'
import { Busy, Problem } from '../Shell'
import { Closed, Head } from './Letter'
import './client.css'

type Picked = Record<string, string[]>

interface Shot {
  key: string
  jpeg: Blob
  url: string
}

/** Picks a choice or takes it back; where only one can be picked the other goes. */
export function picked(now: Picked, q: Schemas['AskedOf'], id: string): Picked {
  const have = now[q.finding] ?? []
  const next = have.includes(id) ? have.filter((x) => x !== id) : q.many ? [...have, id] : [id]
  return Object.fromEntries(Object.entries({ ...now, [q.finding]: next }).filter(([, ids]) => ids.length > 0))
}

function Question({ q, have, onPick }: { q: Schemas['AskedOf']; have: string[]; onPick: (id: string) => void }) {
  return (
    <fieldset className="asked" data-asked={q.finding}>
      <legend>
        {q.text} {q.many && <small className="faint">more than one if need be</small>}
      </legend>
      <div className="answers">
        {q.choices.map((c) => (
          <button key={c.id} type="button" className="answer" aria-pressed={have.includes(c.id)} onClick={() => onPick(c.id)}>
            {c.text}
          </button>
        ))}
      </div>
    </fieldset>
  )
}

/** Pictures that go with it: reduced here, so that nothing but the picture itself leaves the device. */
function Shots({ shots, most, onShots }: { shots: Shot[]; most: number; onShots: (f: (now: Shot[]) => Shot[]) => void }) {
  const [problem, setProblem] = useState('')
  const [busy, setBusy] = useState(false)
  const add = async (files: FileList | null) => {
    setProblem('')
    setBusy(true)
    for (const file of [...(files ?? [])].slice(0, most - shots.length)) {
      const why = unfit(file)
      if (why) {
        setProblem(why)
        continue
      }
      try {
        const { jpeg } = await reduced(file)
        onShots((now) => [...now, { key: newId(), jpeg, url: URL.createObjectURL(jpeg) }])
      } catch (e) {
        setProblem(unreadable(e))
      }
    }
    setBusy(false)
  }
  return (
    <section className="asked" aria-label="Pictures">
      <h2>Pictures</h2>
      <p>Best are three: the whole lawn, the edge between good and bad from knee height, and some blades close up. Up to {most}.</p>
      <ul className="shots">
        {shots.map((s, i) => (
          <li key={s.key}>
            <img src={s.url} alt={`Picture ${i + 1}`} />
            <button type="button" className="quiet" onClick={() => onShots((now) => now.filter((x) => x !== s))}>
              Take out
            </button>
          </li>
        ))}
      </ul>
      {shots.length < most && (
        <label className="answer add-shot">
          {busy ? 'Reading …' : shots.length === 0 ? 'Add pictures' : 'Add more'}
          <input
            type="file"
            className="sr-only"
            accept="image/jpeg,image/png"
            multiple
            onChange={(e) => {
              void add(e.target.files)
              e.target.value = ''
            }}
          />
        </label>
      )}
      {problem && (
        <p className="problem" role="alert">
          {problem}
        </p>
      )}
    </section>
  )
}

function Thanks({ until, token }: { until: string[]; token: string }) {
  return (
    <section className="lawn" role="status" aria-label="Sent">
      <h2>Thank you. We have it.</h2>
      <p>We will tell you when we come.</p>
      <ul className="until">
        {until.map((u) => (
          <li key={u}>{u}</li>
        ))}
      </ul>
      <p>
        <Link to={`/for/${token}`}>Back to your page</Link>
      </p>
    </section>
  )
}

/** The questions with their answers, on the way out. */
function Form({ asking, token }: { asking: Schemas['Asking']; token: string }) {
  const [zone, setZone] = useState(asking.zones.length === 1 ? (asking.zones[0]?.id ?? '') : '')
  const [answers, setAnswers] = useState<Picked>({})
  const [note, setNote] = useState('')
  const [shots, setShots] = useState<Shot[]>([])
  const [id] = useState(newId)
  const send = useMutation({
    mutationFn: async () => {
      const list = Object.entries(answers).map(([finding, choices]) => ({ finding, choices }))
      const took = await got(
        api.POST('/for/{token}/calls', { params: { path: { token } }, body: { id, zone_id: zone, answers: list, note } }),
      )
      for (const [i, s] of shots.entries()) {
        const picture = await base64(s.jpeg)
        await got(
          api.PUT('/for/{token}/calls/{call}/pictures/{place}', { params: { path: { token, call: id, place: i + 1 } }, body: { picture } }),
        )
      }
      return took
    },
  })
  if (send.data) return <Thanks until={send.data.until} token={token} />
  const told = Object.keys(answers).length > 0 || note.trim() !== ''
  return (
    <form
      className="lawn"
      aria-label="What you see"
      onSubmit={(e) => {
        e.preventDefault()
        send.mutate()
      }}
    >
      {asking.zones.length > 1 && (
        <fieldset className="asked">
          <legend>Which lawn?</legend>
          <div className="answers">
            {asking.zones.map((z) => (
              <button key={z.id} type="button" className="answer" aria-pressed={zone === z.id} onClick={() => setZone(z.id)}>
                {z.name}
              </button>
            ))}
          </div>
        </fieldset>
      )}
      <Shots shots={shots} most={asking.pictures} onShots={setShots} />
      {asking.questions.map((q) => (
        <Question key={q.finding} q={q} have={answers[q.finding] ?? []} onPick={(choice) => setAnswers((now) => picked(now, q, choice))} />
      ))}
      <label className="asked">
        <b>Anything else?</b>
        <textarea rows={4} maxLength={2000} value={note} onChange={(e) => setNote(e.target.value)} />
      </label>
      {send.isError && <Problem error={send.error} />}
      {send.isError && <p>Nothing is lost: press Send again.</p>}
      <button type="submit" className="answer send" disabled={send.isPending || !told || zone === ''}>
        {send.isPending ? 'Sending …' : 'Send'}
      </button>
      {!told && <p className="faint">Answer what you can. What you do not know you can leave out.</p>}
      {told && zone === '' && <p className="faint">Say which lawn it is.</p>}
    </form>
  )
}

/** Where a client tells what they see before anybody comes, for whoever has the link. */
export default function Tell() {
  const { token = '' } = useParams()
  const asking = useQuery({
    queryKey: ['asking', token],
    queryFn: () => got(api.GET('/for/{token}/questions', { params: { path: { token } } })),
    staleTime: Infinity,
  })
  if (asking.error instanceof Refused && asking.error.status === 404) return <Closed />
  if (asking.isLoadingError) return <Problem error={asking.error} />
  if (!asking.data) return <Busy what="the questions" />
  const a = asking.data
  return (
    <main className="for-client">
      <article className="letter tell">
        <Head firm={a.firm} />
        <h1>What do you see?</h1>
        <p className="letter-for">{a.site}</p>
        <p>
          The more we know beforehand, the better we come prepared. It takes three minutes.
          {a.visit_on && ` We are coming on ${showDate(a.visit_on, a.date_form)}.`}
        </p>
        {a.told.length > 0 && (
          <p className="faint">You told us already: {a.told.map((t) => `${t.zone} on ${showDate(t.told_on, a.date_form)}`).join(', ')}.</p>
        )}
        {a.full ? <p className="lawn">You have told us a lot today. Please call us instead.</p> : <Form asking={a} token={token} />}
      </article>
    </main>
  )
}
