// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { DateForm } from '../format'
import { Buttons, Day, Pick, Text, Tick } from './Field'

afterEach(cleanup)

function aDay(form: DateForm, more: { value?: string; max?: string; min?: string } = {}) {
  const onChange = vi.fn()
  function Holder() {
    const [value, setValue] = useState(more.value ?? '')
    return (
      <Day
        label="Applied on"
        form={form}
        value={value}
        {...(more.max ? { max: more.max } : {})}
        {...(more.min ? { min: more.min } : {})}
        onChange={(v) => {
          onChange(v)
          setValue(v)
        }}
      />
    )
  }
  render(<Holder />)
  return { onChange, field: screen.getByLabelText<HTMLInputElement>('Applied on'), user: userEvent.setup() }
}

describe('a day', () => {
  it('is shown and read in the form of the firm', async () => {
    for (const [form, typed, shown] of [
      ['dmy', '3.9.2026', '3 Sep 2026'],
      ['mdy', '9/3/2026', 'Sep 3, 2026'],
      ['ymd', '2026-09-03', '2026-09-03'],
    ] as const) {
      const { onChange, field, user } = aDay(form)
      await user.type(field, `${typed}{Enter}`)
      expect(onChange).toHaveBeenLastCalledWith('2026-09-03')
      expect(field.value).toBe(shown)
      cleanup()
    }
  })
  it('that cannot be read stays as it was typed, and says how', async () => {
    const { onChange, field, user } = aDay('dmy')
    await user.type(field, 'next week{Enter}')
    expect(field.value).toBe('next week')
    expect(screen.getByRole('alert').textContent).toBe('type it as day month year, like 24 Aug 2026')
    expect(onChange).not.toHaveBeenCalled()
  })
  it('beyond its borders is told and not taken', async () => {
    const { onChange, field, user } = aDay('dmy', { max: '2026-08-24', min: '2026-08-01' })
    await user.type(field, '25 Aug 2026{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('is in the future')
    await user.clear(field)
    await user.type(field, '1 Jul 2026{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('is before 1 Aug 2026')
    expect(onChange).not.toHaveBeenCalled()
  })
  it('is put back by escape, and taken when the field is left', async () => {
    const { onChange, field, user } = aDay('dmy', { value: '2026-08-20' })
    await user.clear(field)
    await user.type(field, '21 Aug 2026{Escape}')
    expect(field.value).toBe('20 Aug 2026')
    await user.clear(field)
    await user.type(field, '22 Aug 2026')
    await user.tab()
    expect(onChange).toHaveBeenLastCalledWith('2026-08-22')
  })
  it('is cleared by an empty field', async () => {
    const { onChange, field, user } = aDay('dmy', { value: '2026-08-20' })
    await user.clear(field)
    await user.tab()
    expect(onChange).toHaveBeenLastCalledWith('')
  })
})

describe('the other fields', () => {
  it('carry their label, unit and hint', async () => {
    const onChange = vi.fn()
    render(<Text label="Width" unit="m" hint="from edge to edge" value="" onChange={onChange} />)
    expect(screen.getByText('from edge to edge')).toBeTruthy()
    expect(screen.getByText('m')).toBeTruthy()
    await userEvent.type(screen.getByLabelText('Width'), '4')
    expect(onChange).toHaveBeenLastCalledWith('4')
  })
  it('choose one of a list, and tick', async () => {
    const onPick = vi.fn()
    const onTick = vi.fn()
    render(
      <>
        <Pick
          label="Soil"
          value="loam"
          onChange={onPick}
          options={[
            ['loam', 'Loam'],
            ['clay', 'Clay'],
          ]}
        />
        <Tick label="By tape" value={false} onChange={onTick} />
      </>,
    )
    await userEvent.selectOptions(screen.getByLabelText('Soil'), 'clay')
    expect(onPick).toHaveBeenCalledWith('clay')
    await userEvent.click(screen.getByLabelText('By tape'))
    expect(onTick).toHaveBeenCalledWith(true)
  })
  it('end with what was wrong and the way on', async () => {
    const onClose = vi.fn()
    render(<Buttons pending={false} disabled error={new Error('the gate is shut')} onClose={onClose} />)
    expect(screen.getByText(/the gate is shut/)).toBeTruthy()
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true)
    await userEvent.click(screen.getByRole('button', { name: 'Close' }))
    expect(onClose).toHaveBeenCalled()
  })
})
