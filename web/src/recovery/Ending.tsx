import { useState } from 'react'
import { Button } from 'antd'
import { Link } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh, type Words } from '../api/queries'
import { showDate, type DateForm } from '../format'
import { Problem } from '../Shell'

interface Props {
  ending: Schemas['Ending']
  words: Words
  form: DateForm
  currency: string
}

/** A cause that has come back: what was done about its signs, and what would end it. */
export function CameBack({ ending, words, form, currency }: Props) {
  if (ending.again.length === 0) return null
  const labels = (actions: string[]) => actions.map((a) => (words.action.get(a)?.label ?? a).toLowerCase()).join(', ')
  return (
    <section className="came-back" aria-label="Came back">
      {ending.again.map((a) => (
        <div key={a.cause} data-again={a.cause}>
          <h2>
            {words.cause.get(a.cause)?.label ?? a.cause}: {a.times.length === 2 ? 'the second time' : `${a.times.length} times`} in three
            years
          </h2>
          <p>
            Found on {a.times.map((t) => showDate(t, form)).join(', ')}.
            {a.eased.length > 0 && ` Done since: ${labels(a.eased)}. That eases it.`} {a.why && `${capital(a.why)}.`}
          </p>
          {a.ends.length > 0 && (
            <>
              <p>
                <b>{a.ended.length > 0 ? 'Keep on with what ends it:' : 'What would end it:'}</b>
              </p>
              <ul>
                {a.ends.map((e) => (
                  <li key={e.action}>
                    {words.action.get(e.action)?.label ?? e.action}
                    {e.price > 0 && (
                      <span className="num">
                        , about {e.price} {currency} a time
                      </span>
                    )}
                    {a.ended.includes(e.action) && <span className="faint">, done already</span>}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      ))}
    </section>
  )
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** The end of a case: what it was, and whether that is mended or stays. */
export function CloseCase({
  ending,
  words,
  form,
  visit,
  zone,
  recovered,
  may,
}: Omit<Props, 'currency'> & { visit: string; zone: string; recovered: boolean; may: boolean }) {
  const [open, setOpen] = useState(recovered)
  if (ending.closed) {
    const k = ending.closed
    return (
      <section className="closing" aria-label="Closed" data-closed={k.ended}>
        <h2>Case closed</h2>
        <p>
          {words.cause.get(k.cause)?.label ?? k.cause}, {k.ended === 'mended' ? 'mended' : 'stays and is lived with'}, on{' '}
          {showDate(k.closed_on ?? '', form)}.{k.note && ` ${k.note}`}
        </p>
        <AgainstNext ending={ending} words={words} form={form} visit={visit} zone={zone} />
      </section>
    )
  }
  if (!may || ending.cause === '') return null
  return (
    <section className="closing" aria-label="Close the case">
      {open ? (
        <ClosingForm ending={ending} words={words} form={form} visit={visit} zone={zone} />
      ) : (
        <Button onClick={() => setOpen(true)} data-close-case>
          Close the case
        </Button>
      )}
    </section>
  )
}

/** Whether anything is booked against the next time. */
function AgainstNext({ ending, words, form, visit, zone }: Omit<Props, 'currency'> & { visit: string; zone: string }) {
  if (!ending.prevented) return null
  if (ending.preventive)
    return (
      <p data-preventive="booked">
        Booked against the next time: {words.action.get(ending.preventive.action)?.label.toLowerCase()},{' '}
        <b className="num">{showDate(ending.preventive.due_on, form)}</b>.
      </p>
    )
  return (
    <p className="caution" data-preventive="none">
      Nothing is booked against the next time. <Link to={`/visits/${visit}/${zone}/plan`}>To the plan</Link>
    </p>
  )
}

function ClosingForm({ ending, words, form, visit, zone }: Omit<Props, 'currency'> & { visit: string; zone: string }) {
  const refresh = useRefresh()
  const [cause, setCause] = useState(ending.cause)
  const [ended, setEnded] = useState<'mended' | 'stays' | ''>('')
  const [note, setNote] = useState('')
  const [id] = useState(newId)
  const close = useMutation({
    mutationFn: (how: 'mended' | 'stays') =>
      got(
        api.POST('/visits/{id}/closings', {
          params: { path: { id: visit } },
          body: { id, zone_id: zone, cause, ended: how, note },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <form
      className="form"
      aria-label="Close the case"
      onSubmit={(e) => {
        e.preventDefault()
        if (ended) close.mutate(ended)
      }}
    >
      <h2>Close the case</h2>
      <label className="field wide">
        <span>What it was after all</span>
        <select value={cause} onChange={(e) => setCause(e.target.value)} aria-label="What it was after all">
          {[...words.cause.values()].map((c) => (
            <option key={c.id} value={c.id}>
              {c.label}
            </option>
          ))}
        </select>
      </label>
      <div className="field">
        <span>The cause</span>
        <div className="answers">
          {(
            [
              ['mended', 'is mended'],
              ['stays', 'stays; lived with'],
            ] as const
          ).map(([v, l]) => (
            <button key={v} type="button" className="answer" aria-pressed={ended === v} onClick={() => setEnded(v)} data-ended={v}>
              {l}
            </button>
          ))}
        </div>
      </div>
      <label className="field wide">
        <span>Note</span>
        <input
          className="plain-date"
          aria-label="Note on the end"
          maxLength={2000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      <AgainstNext ending={ending} words={words} form={form} visit={visit} zone={zone} />
      {close.isError && <Problem error={close.error} />}
      <Button type="primary" htmlType="submit" disabled={ended === ''} loading={close.isPending}>
        Close it
      </Button>
    </form>
  )
}
