import { expect, test } from 'vitest'
import table from '../../../core/knowledge/vocabulary_findings.go?raw'
import { drawn } from './Signature'

// The vocabulary's own lists, from the Go table: every pattern and every leaf symptom must have its drawing.
const ids = (finding: string) =>
  (new RegExp(`ID: "${finding}".*?IDs\\("([^"]+)"\\)`).exec(table)?.[1] ?? '').split(' ').filter((id) => id !== 'none')

test.each([
  ['pattern', drawn.patterns],
  ['leaf-symptoms', drawn.leaves],
] as const)('every %s is drawn', (finding, have) => {
  expect(ids(finding).length).toBeGreaterThan(10)
  expect([...have].sort()).toEqual(ids(finding).sort())
})
