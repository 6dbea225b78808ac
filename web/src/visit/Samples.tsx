import { useState } from 'react'
import { Button, Input } from 'antd'
import { Link } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient, type Words } from '../api/queries'
import { showDate } from '../format'
import { kindLabel, kinds, useSamples } from '../samples/useSamples'
import { Problem } from '../Shell'

/** Samples of the zone: taken with one tap, followed until the result is back. */
export default function Samples({ visit, zone, me, words }: { visit: string; zone: string; me: Schemas['Me']; words: Words }) {
  const samples = useSamples({ zone })
  const may = me.rights.includes('answer-checks')
  const [note, setNote] = useState('')
  const refresh = () =>
    Promise.all([
      queryClient.invalidateQueries({ queryKey: ['samples'] }),
      queryClient.invalidateQueries({ queryKey: ['scales', visit, zone] }),
    ])
  const take = useMutation({
    mutationFn: (k: (typeof kinds)[number]) =>
      got(
        api.POST('/visits/{id}/samples', {
          params: { path: { id: visit } },
          body: { id: newId(), zone_id: zone, kind: k.kind, cores: k.cores, depth_mm: k.depth, note },
        }),
      ),
    onSuccess: () => {
      setNote('')
      return refresh()
    },
  })
  return (
    <section className="samples" aria-label="Samples for the laboratory">
      {may && (
        <>
          <label className="field">
            <span>Location and notes</span>
            <Input aria-label="Note with the sample" value={note} maxLength={500} onChange={(e) => setNote(e.target.value)} />
          </label>
          <p className="caution">{words.procedure.get('soil-sample')?.caution}</p>
          <div className="sample-kinds">
            {kinds.map((k) => (
              <button
                key={k.kind}
                type="button"
                data-sample={k.kind}
                disabled={take.isPending && take.variables.kind === k.kind}
                onClick={() => take.mutate(k)}
              >
                <b>{k.label}</b>
                <span className="faint">
                  {k.how}; {k.days} days
                </span>
              </button>
            ))}
          </div>
        </>
      )}
      {take.isError && <Problem error={take.error} />}
      {samples.data && samples.data.length > 0 && (
        <ul className="sample-list">
          {samples.data.map((s) => (
            <SampleLine key={s.id} s={s} form={me.date_form} may={may} words={words} onIn={refresh} />
          ))}
        </ul>
      )}
    </section>
  )
}

function SampleLine({
  s,
  form,
  may,
  words,
  onIn,
}: {
  s: Schemas['Sample']
  form: Schemas['Me']['date_form']
  may: boolean
  words: Words
  onIn: () => unknown
}) {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const put = useMutation({
    mutationFn: () => got(api.POST('/samples/{id}/result', { params: { path: { id: s.id } }, body: { text } })),
    onSuccess: () => {
      setOpen(false)
      return onIn()
    },
  })
  return (
    <li data-back={Boolean(s.returned_on)} data-overdue={s.overdue}>
      <p>
        <b className="num">{s.number}</b> {kindLabel[s.kind]}, taken {showDate(s.taken_on, form)}
        {s.note && <span className="faint"> {s.note}</span>}
        <span className="sample-state">
          {s.returned_on
            ? `back ${showDate(s.returned_on, form)}${s.origin === 'simulated' ? ', simulated' : s.laboratory ? `, ${s.laboratory}` : ''}`
            : s.overdue
              ? `overdue since ${showDate(s.expected_on, form)}`
              : `expected ${showDate(s.expected_on, form)}`}
        </span>
      </p>
      {s.returned_on ? (
        <dl>
          {Object.entries(s.values).map(([id, v]) => (
            <div key={id}>
              <dt>{words.findingLabel(id)}</dt>
              <dd className="num">{words.valueLabel(id, v)}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className="buttons">
          <Link className="sample-form-link" to={`/samples/${s.id}`}>
            Form to go with it
          </Link>
          {may && (
            <Button aria-expanded={open} onClick={() => setOpen(!open)}>
              Enter lab result
            </Button>
          )}
        </p>
      )}
      {open && (
        <form
          onSubmit={(e) => {
            e.preventDefault()
            put.mutate()
          }}
        >
          <label className="field">
            <span>The laboratory's file, CSV or JSON</span>
            <input
              type="file"
              accept=".csv,.json,text/csv,application/json"
              aria-label="File of the result"
              onChange={(e) => {
                const f = e.target.files?.[0]
                if (f) void f.text().then(setText)
              }}
            />
          </label>
          <Input.TextArea
            aria-label="Text of the result"
            rows={5}
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="sample,finding,value,unit,laboratory"
          />
          {put.isError && <Problem error={put.error} />}
          <p className="buttons">
            <Button type="primary" htmlType="submit" disabled={!text.trim()} loading={put.isPending}>
              Add to diagnosis
            </Button>
          </p>
        </form>
      )}
    </li>
  )
}
