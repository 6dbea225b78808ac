import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

const files = (dir: string): string[] =>
  readdirSync(dir, { withFileTypes: true }).flatMap((f) =>
    f.isDirectory() ? files(`${dir}/${f.name}`) : f.name.endsWith('.css') ? [`${dir}/${f.name}`] : [],
  )

// A page's styles stay loaded when another page is opened: a class that two of them shape looks one way or the other by where one
// comes from.
it('no class is shaped on its own by the styles of two pages', () => {
  const by = new Map<string, Set<string>>()
  for (const file of files(import.meta.dirname))
    for (const [, name = ''] of readFileSync(file, 'utf8').matchAll(/^\.([a-z][\w-]*)(?:\[[^\]]*\])?\s*(?:\{|,$)/gm))
      by.set(name, (by.get(name) ?? new Set()).add(file.slice(import.meta.dirname.length + 1)))
  const shared = [...by].filter(([, where]) => where.size > 1).map(([name, where]) => `.${name}: ${[...where].join(', ')}`)
  expect(by.size).toBeGreaterThan(300)
  expect(shared).toEqual([])
})
