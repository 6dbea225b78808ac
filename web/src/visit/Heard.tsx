import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { percent } from '../format'
import { enoughSaid } from './NextChecks'

/** What a screen reader says after each answer: what leads, by how much, and where the visit goes on. */
export function Heard({ d, words, next }: { d: Schemas['Result'] | undefined; words: Words; next?: string | undefined }) {
  const said = (d?.causes ?? []).slice(0, 2).map((c) => `${words.cause.get(c.id)?.label ?? c.id} ${percent(c.probability)} per cent`)
  return (
    <p className="sr-only" role="status" data-heard>
      {said.join(', ')}
      {d?.enough ? `. ${enoughSaid(d)}` : next ? `. Next: ${words.findingLabel(next).toLowerCase()}` : ''}
    </p>
  )
}
