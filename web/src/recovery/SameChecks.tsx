import { useState } from 'react'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { showDate } from '../format'
import { useScales } from '../scales/useScales'
import { Check, type Plain } from '../visit/Check'
import '../visit/visit.css'
import { useAnswers } from '../visit/useAnswers'

/** The checks that made the diagnosis, made again: one press says that it is as it was. */
export function SameChecks({
  again,
  visit,
  zone,
  words,
  me,
}: {
  again: Schemas['Before'][]
  visit: string
  zone: string
  words: Words
  me: Schemas['Me']
}) {
  const scales = useScales(visit, zone).data?.now
  const { answers, answer } = useAnswers(visit, zone, scales, true)
  const [active, setActive] = useState('')
  const list = again.flatMap((b) => {
    const finding = words.finding.get(b.finding)
    return finding ? [{ b, finding }] : []
  })
  if (list.length === 0 || !scales) return null
  return (
    <section className="same-checks" aria-label="The same checks again">
      <h2>The same checks again</h2>
      {list.map(({ b, finding }) => (
        <Check
          key={finding.id}
          finding={finding}
          caution={words.procedure.get(finding.procedure)?.caution ?? ''}
          value={answers.get(finding.id)?.value}
          state={answers.get(finding.id)?.state}
          by={answers.get(finding.id)?.by ?? ''}
          active={finding.id === active}
          suggested={false}
          units={me.unit_system}
          causes={words.raw.causes}
          disabled={false}
          offers={[
            {
              key: 'before',
              from: `As on ${showDate(b.on, me.date_form)}`,
              says: words.valueLabel(finding.id, b.value),
              value: b.value as Plain,
            },
          ]}
          onActivate={() => setActive(finding.id)}
          onAnswer={(v, how) => answer(finding.id, v, how)}
        />
      ))}
    </section>
  )
}
