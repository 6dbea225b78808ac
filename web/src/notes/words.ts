import type { Schemas } from '../api/client'

const seen: Record<Schemas['Note']['kind'], string> = {
  note: '',
  soft: 'soft underfoot.',
  pale: 'pale.',
  dug: 'dug up by animals.',
}

/** What somebody saw on an ordinary round, in words. */
export const seenSaid = (kind: Schemas['Note']['kind']): string => seen[kind]
