// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { Check, type Answered } from './Check'
import { rivalsOf } from './offers'

afterEach(cleanup)

const base: Schemas['VFinding'] = {
  id: 'soil-moisture',
  station: 'soil',
  procedure: 'core',
  kind: 'one-of',
  label: 'Soil moisture',
  ask: 'By feel, in the root zone',
  unit: '',
  measure: '',
  min: 0,
  max: 0,
  step: 1,
  bands: [],
  minutes: 0.3,
  steers: false,
  both: true,
  apart: false,
  values: [
    { id: 'dry', label: 'dry' },
    { id: 'moist', label: 'moist' },
  ],
}
const depth: Schemas['VFinding'] = {
  ...base,
  id: 'root-depth-mm',
  kind: 'number',
  label: 'Root depth',
  measure: 'mm',
  max: 1000,
  step: 10,
  values: [],
}

interface Given {
  finding?: Schemas['VFinding']
  more?: Partial<Parameters<typeof Check>[0]>
}

function shown({ finding = base, more = {} }: Given = {}) {
  const onAnswer = vi.fn()
  const goodAnswer = vi.fn()
  render(
    <Check
      finding={finding}
      caution="Have buried lines located."
      value={undefined}
      state={undefined}
      by=""
      active
      suggested={false}
      units="metric"
      causes={[]}
      disabled={false}
      onActivate={() => undefined}
      onAnswer={onAnswer}
      good={{ value: undefined, state: undefined, offers: undefined, onAnswer: goodAnswer }}
      {...more}
    />,
  )
  return { onAnswer, goodAnswer, user: userEvent.setup() }
}

describe('a check', () => {
  it('is answered by one press, and taken back by the same', async () => {
    const { onAnswer, user } = shown()
    await user.click(screen.getByRole('button', { name: /moist/ }))
    expect(onAnswer).toHaveBeenLastCalledWith('moist')
    cleanup()
    const again = shown({ more: { value: 'moist' } })
    await again.user.click(screen.getByRole('button', { name: /moist/, pressed: true }))
    expect(again.onAnswer).toHaveBeenLastCalledWith(null)
  })

  it('shows the caution of its handling while it is in hand', () => {
    shown()
    expect(screen.getByText('Have buried lines located.')).toBeTruthy()
    cleanup()
    shown({ more: { active: false } })
    expect(screen.queryByText('Have buried lines located.')).toBeNull()
  })

  it('says where an answer stands', () => {
    for (const [state, said] of [
      ['here', 'saved on this device'],
      ['refused', 'not saved, see below'],
      ['saved', 'saved, Tam'],
    ] as const) {
      shown({ more: { value: 'dry', state, by: 'Tam Whitlock' } })
      expect(screen.getByText(said)).toBeTruthy()
      cleanup()
    }
  })

  it("lays two people's answers side by side until one is chosen", async () => {
    const words = { valueLabel: (_: string, v: unknown) => String(v) } as Pick<Words, 'valueLabel'>
    const stands: Answered = { value: 'dry', state: 'saved', by: 'Tam Whitlock', other: { value: 'moist', by: 'Rufus Adeyo' } }
    const rivals = rivalsOf(stands, 'soil-moisture', words)
    expect(rivals?.map((r) => r.says)).toEqual(['dry', 'moist'])
    expect(rivalsOf({ ...stands, state: 'here' }, 'soil-moisture', words)).toBeUndefined()
    expect(rivalsOf({ ...stands, other: undefined }, 'soil-moisture', words)).toBeUndefined()
    const { onAnswer, goodAnswer, user } = shown({
      more: {
        value: 'dry',
        rivals,
        good: { value: 'dry', state: 'saved', offers: undefined, rivals, onAnswer: vi.fn() },
      },
    })
    const [bad, good] = screen.getAllByRole('group', { name: 'Two answers' })
    await user.click(within(bad as HTMLElement).getByRole('button', { name: /Tam Whitlock/ }))
    expect(onAnswer).toHaveBeenLastCalledWith('dry')
    await user.click(within(bad as HTMLElement).getByRole('button', { name: /Rufus Adeyo/ }))
    expect(onAnswer).toHaveBeenLastCalledWith('moist')
    expect(good).toBeTruthy()
    expect(goodAnswer).not.toHaveBeenCalled()
  })

  it('takes over what the records offer', async () => {
    const { onAnswer, user } = shown({
      more: { offers: [{ key: 'records', from: 'By the records', says: 'dry', value: 'dry' }] },
    })
    await user.click(screen.getByRole('button', { name: /By the records/ }))
    expect(onAnswer).toHaveBeenCalledWith('dry')
  })

  it('takes no answer from whoever may not give one', () => {
    shown({ more: { disabled: true } })
    expect(screen.getAllByRole<HTMLButtonElement>('button').every((b) => b.disabled)).toBe(true)
  })
})

describe('a figure', () => {
  it('is taken on enter, and stepped', async () => {
    const { onAnswer, user } = shown({ finding: depth })
    await user.type(screen.getByRole('textbox', { name: 'Root depth' }), '40{Enter}')
    expect(onAnswer).toHaveBeenLastCalledWith(40)
    cleanup()
    const again = shown({ finding: depth, more: { value: 40 } })
    await again.user.click(screen.getByRole('button', { name: 'More Root depth' }))
    expect(again.onAnswer).toHaveBeenLastCalledWith(50)
  })

  it('in inches goes out in millimetres, with what was typed', async () => {
    const { onAnswer, user } = shown({ finding: depth, more: { units: 'us' } })
    await user.type(screen.getByRole('textbox', { name: 'Root depth' }), '2{Enter}')
    expect(onAnswer.mock.calls.at(-1)?.[0]).toBeCloseTo(50.8)
    expect(onAnswer.mock.calls.at(-1)?.[1]).toEqual({ entered: { amount: 2, unit: 'in' } })
  })

  it('out of range or no number is said so and not taken', async () => {
    const { onAnswer, user } = shown({ finding: depth })
    const field = screen.getByRole('textbox', { name: 'Root depth' })
    await user.type(field, '4000{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('Between 0 and 1000')
    await user.clear(field)
    await user.type(field, 'deep{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('This is not a number')
    expect(onAnswer).not.toHaveBeenCalled()
  })

  it('is left as it was by escape', async () => {
    const { onAnswer, user } = shown({ finding: depth, more: { value: 40 } })
    const field = screen.getByRole<HTMLInputElement>('textbox', { name: 'Root depth' })
    await user.clear(field)
    await user.type(field, '70{Escape}')
    expect(field.value).toBe('40')
    expect(onAnswer).not.toHaveBeenCalled()
  })
})

describe('the good spot', () => {
  it('opens on demand, answers by itself and tells the difference', async () => {
    const { onAnswer, goodAnswer, user } = shown({ finding: depth, more: { value: 30 } })
    await user.click(screen.getByRole('button', { name: 'Compare with a good spot' }))
    await user.type(screen.getByRole('textbox', { name: 'Root depth, good spot' }), '150{Enter}')
    expect(goodAnswer).toHaveBeenLastCalledWith(150)
    expect(onAnswer).not.toHaveBeenCalled()
    cleanup()
    shown({ finding: depth, more: { value: 30, good: { value: 150, state: 'saved', offers: undefined, onAnswer: goodAnswer } } })
    expect(screen.getByText('120 mm less at the bad spot.')).toBeTruthy()
  })

  it('stands open where the difference is a finding of its own', async () => {
    const { goodAnswer, user } = shown({ finding: { ...base, apart: true } })
    const both = screen.getAllByRole('group')
    const good = both.find((g) => within(g).queryByText('Good spot') && g.dataset['finding'] === 'soil-moisture@healthy')
    expect(good).toBeTruthy()
    if (good) await user.click(within(good).getByRole('button', { name: 'dry' }))
    expect(goodAnswer).toHaveBeenLastCalledWith('dry')
  })

  it('is not offered at a check that is not in hand', () => {
    shown({ more: { active: false } })
    expect(screen.queryByRole('button', { name: 'Compare with a good spot' })).toBeNull()
  })
})
