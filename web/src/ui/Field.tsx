import { useId, useRef, useState, type ReactNode } from 'react'
import { Button, Input } from 'antd'
import { readDate, showDate, type DateForm } from '../format'
import { Problem } from '../Shell'

interface Labelled {
  label: string
  hint?: ReactNode
  disabled?: boolean
  required?: boolean
  wide?: boolean
}

/** A line of text, or a number with its unit. */
export function Text({
  label,
  hint,
  disabled,
  required,
  wide,
  value,
  onChange,
  unit,
  type,
  autoComplete,
}: Labelled & { value: string; onChange: (v: string) => void; unit?: string | undefined; type?: string; autoComplete?: string }) {
  return (
    <label className={wide ? 'field wide' : 'field'}>
      <span>{label}</span>
      <Input
        aria-label={label}
        type={type}
        suffix={unit}
        inputMode={unit ? 'decimal' : undefined}
        autoComplete={autoComplete}
        required={required}
        disabled={disabled}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      {hint && <small className="faint">{hint}</small>}
    </label>
  )
}

export function Password({
  label,
  hint,
  value,
  onChange,
  fresh,
}: Labelled & { value: string; onChange: (v: string) => void; fresh?: boolean }) {
  return (
    <label className="field">
      <span>{label}</span>
      <Input.Password
        aria-label={label}
        autoComplete={fresh ? 'new-password' : 'current-password'}
        required
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
      {hint && <small className="faint">{hint}</small>}
    </label>
  )
}

export function Pick<T extends string>({
  label,
  hint,
  disabled,
  value,
  onChange,
  options,
}: Labelled & { value: T; onChange: (v: T) => void; options: readonly (readonly [T, string])[] }) {
  return (
    <label className="field">
      <span>{label}</span>
      <select aria-label={label} disabled={disabled} value={value} onChange={(e) => onChange(e.target.value as T)}>
        {options.map(([v, l]) => (
          <option key={v} value={v}>
            {l}
          </option>
        ))}
      </select>
      {hint && <small className="faint">{hint}</small>}
    </label>
  )
}

export function Tick({ label, disabled, value, onChange }: Labelled & { value: boolean; onChange: (v: boolean) => void }) {
  return (
    <label className="tick-line">
      <input type="checkbox" disabled={disabled} checked={value} onChange={(e) => onChange(e.target.checked)} /> {label}
    </label>
  )
}

const asked: Record<DateForm, string> = { dmy: 'day month year', mdy: 'month day, year', ymd: 'year-month-day' }

/**
 * A day, typed and shown in the firm's form, whatever the browser's language; the calendar opens beside it. value is YYYY-MM-DD or
 * empty. What cannot be read stays as it was typed and says so.
 */
export function Day({
  label,
  hint,
  disabled,
  required,
  value,
  onChange,
  form,
  max,
  min,
  bare,
}: Labelled & { value: string; onChange: (v: string) => void; form: DateForm; max?: string; min?: string; bare?: boolean }) {
  const [text, setText] = useState<string>()
  const calendar = useRef<HTMLInputElement>(null)
  const id = useId()
  const read = text === undefined ? value : text.trim() === '' ? '' : readDate(text, form)
  const problem =
    text === undefined
      ? ''
      : read === undefined
        ? `type it as ${asked[form]}, like ${showDate('2026-08-24', form)}`
        : read && max && read > max
          ? 'is in the future'
          : read && min && read < min
            ? `is before ${showDate(min, form)}`
            : ''
  const commit = () => {
    if (text === undefined || problem || read === undefined) return
    if (read !== value) onChange(read)
    setText(undefined)
  }
  return (
    <span className={bare ? 'day-field' : 'field day-field'}>
      <label htmlFor={id} className={bare ? 'unseen' : undefined}>
        {label}
      </label>
      <span className="day-line">
        <Input
          id={id}
          aria-label={label}
          aria-invalid={problem !== ''}
          disabled={disabled}
          required={required}
          placeholder={asked[form]}
          value={text ?? showDate(value, form)}
          onFocus={(e) => e.target.select()}
          onChange={(e) => setText(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => {
            if (e.key === 'Enter') commit()
            if (e.key === 'Escape') setText(undefined)
          }}
        />
        <input
          ref={calendar}
          className="day-calendar"
          type="date"
          tabIndex={-1}
          aria-hidden="true"
          disabled={disabled}
          value={value}
          max={max}
          min={min}
          onChange={(e) => {
            setText(undefined)
            onChange(e.target.value)
          }}
        />
        <Button disabled={disabled} aria-label={`Calendar for ${label}`} onClick={() => calendar.current?.showPicker()}>
          ▾
        </Button>
      </span>
      {problem ? (
        <small className="problem" role="alert">
          {problem}
        </small>
      ) : (
        hint && <small className="faint">{hint}</small>
      )}
    </span>
  )
}

/** The end of a form: what was wrong, and the way on. */
export function Buttons({
  pending,
  disabled,
  error,
  save = 'Save',
  onClose,
}: {
  pending: boolean
  disabled?: boolean
  error: unknown
  save?: string
  onClose?: () => void
}) {
  return (
    <>
      {error !== null && error !== undefined && <Problem error={error} />}
      <p className="buttons">
        <Button type="primary" htmlType="submit" loading={pending} disabled={disabled}>
          {save}
        </Button>
        {onClose && <Button onClick={onClose}>Close</Button>}
      </p>
    </>
  )
}
