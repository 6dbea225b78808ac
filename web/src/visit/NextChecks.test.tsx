// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { page } from '../testing'
import { Changes, Decided, enoughSaid, NextChecks } from './NextChecks'
import { soMany } from './OutboxBar'

afterEach(cleanup)

const labels: Record<string, string> = {
  'grubs-per-m2': 'Grubs counted',
  'pull-test': 'Pull',
  'lab-pathogen': 'Laboratory',
  'root-colour': 'Root colour',
}
const words = {
  findingLabel: (id: string) => labels[id] ?? id,
  valueLabel: (_: string, v: unknown) => String(v),
  cause: new Map([['white-grubs', { id: 'white-grubs', label: 'White grubs', family: 'insect' }]]),
  action: new Map([
    ['insecticide-curative', { label: 'Insecticide on a count', pesticide: true, recorded: true }],
    ['water-deep', { label: 'Water deeply', recorded: true }],
    ['change-use', { label: 'Another use', recorded: false }],
  ]),
  procedure: new Map([
    ['grub-square', { label: 'Cut and count squares' }],
    ['pull', { label: 'Pull' }],
  ]),
} as unknown as Words

const check = (finding: string, change: Partial<Schemas['Check']> = {}): Schemas['Check'] =>
  ({
    finding,
    procedure: finding === 'pull-test' ? 'pull' : 'grub-square',
    minutes: 4.25,
    worth: 12.4,
    outcomes: [{ label: 'over 65', chance: 0.4, causes: [{ id: 'white-grubs', probability: 0.93 }] }],
    ...change,
  }) as Schemas['Check']

const draw = (change: Partial<Parameters<typeof NextChecks>[0]> = {}) => {
  const onGo = vi.fn()
  page(<NextChecks next={[]} decisive={[]} settled={false} enough={false} words={words} currency="USD" onGo={onGo} {...change} />)
  return onGo
}

describe('the next checks', () => {
  it('say what they are worth, how long they take and what they would do', async () => {
    const onGo = draw({ next: [check('grubs-per-m2', { needed_for: 'white-grubs', also: ['root-colour'] })] })
    const button = screen.getByRole('button')
    expect(button.textContent).toContain('worth 12 USD, 4.3 min')
    expect(button.textContent).toContain('Needed before you treat white grubs')
    expect(button.textContent).toContain('Cut and count squares, with root colour')
    expect(button.textContent).toContain('over 65 (40 %) →')
    await userEvent.click(button)
    expect(onGo).toHaveBeenCalledWith('grubs-per-m2')
  })
  it('leave out what takes days, unless it decides, and name what a verdict waits for first', () => {
    draw({
      next: [
        check('lab-pathogen', { days: 5 }),
        check('pull-test'),
        check('root-colour', { days: 5, decides: true }),
        check('grubs-per-m2'),
      ],
      decisive: [{ finding: 'grubs-per-m2', action: 'insecticide-curative', reason: 'a count decides' }] as Schemas['Wanted'][],
    })
    expect(screen.getAllByRole('button').map((b) => b.dataset.next)).toEqual(['grubs-per-m2', 'pull-test', 'root-colour'])
    expect(screen.getAllByRole('button')[0]?.textContent).toContain('Insecticide on a count: a count decides')
    expect(screen.getAllByRole('button')[2]?.textContent).toContain('5 days')
  })
  it('say when it is enough, and draw no more outcomes then', () => {
    draw({ next: [check('pull-test', { worth: 0.4 })], enough: true })
    expect(screen.getByText(/Enough is known/)).toBeTruthy()
    expect(screen.getByRole('button').textContent).not.toContain('→')
    expect(screen.getByRole('button').textContent).not.toContain('worth')
    expect(enoughSaid({ settled: true })).toBe('No further check would change the decision.')
  })
})

describe('what would change it', () => {
  it('leads to the check', async () => {
    const onGo = vi.fn()
    const change = { finding: 'pull-test', outcome: 'resists', chance: 0.2, leads: 'white-grubs', then: 0.6, leader_then: 0.1 }
    page(<Changes changes={[change]} words={words} onGo={onGo} />)
    expect(screen.getByRole('listitem').textContent).toContain('20 % likely; then')
    await userEvent.click(screen.getByRole('button', { name: 'Pull: resists' }))
    expect(onGo).toHaveBeenCalledWith('pull-test')
  })
  it('says so where nothing would', () => {
    page(<Changes changes={[]} words={words} onGo={() => undefined} />)
    expect(screen.getByText('No single remaining check would change this.')).toBeTruthy()
  })
})

it('what is clear already is said, with what people reach for and should not', () => {
  const line = (id: string, verdict: string, called = false) =>
    ({ id, label: id, verdict, called, reasons: [`because ${id}`] }) as Schemas['ActionLine']
  page(
    <Decided
      actions={[line('water-deep', 'do-now'), line('change-use', 'do-now'), line('insecticide-curative', 'hold', true)]}
      words={words}
    />,
  )
  expect(screen.getByText('Do').parentElement?.textContent).toBe('Do water-deep: because water-deep')
  expect(screen.getByText('Wait').parentElement?.textContent).toBe('Wait insecticide-curative: because insecticide-curative')
  expect(screen.queryByText(/change-use/)).toBeNull()
})

it('counts what waits, each by its name', () => {
  expect(soMany({})).toBe('')
  expect(soMany({ picture: 2 })).toBe('2 pictures')
  expect(soMany({ picture: 2, note: 1, measure: 1, record: 3 })).toBe('2 pictures, 1 note, 1 measurement and 3 records')
})
