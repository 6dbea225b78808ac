import { useState } from 'react'
import { useMe } from '../api/queries'
import { fromSI, readNumber, show, toSI, unitFor } from '../format'
import { Pick, Text } from '../ui/Field'
import { across, knownThings, type Stretch } from './scale'

export type Ruler = 'known' | 'patch'
export type Lines = Partial<Record<Ruler, Stretch>>

interface Props {
  picture: { width: number; height: number; tilt: number | undefined }
  lines: Lines
  ruler: Ruler | undefined
  onRuler: (r: Ruler | undefined) => void
  /** what was measured, taken over as the size of a patch; left out where nothing is asked for it */
  onWidth?: (cm: number) => void
}

/** How wide a patch is, by something in the picture whose length is known. */
export function Scale({ picture, lines, ruler, onRuler, onWidth }: Props) {
  const system = useMe().data?.unit_system ?? 'metric'
  const [thing, setThing] = useState<string>(knownThings[0].id)
  const [own, setOwn] = useState('')
  const [taken, setTaken] = useState(false)
  const cm = knownThings.find((t) => t.id === thing)?.cm ?? toSI(readNumber(own) ?? NaN, 'cm', system)
  const found = lines.known && lines.patch && across(lines.known, cm, lines.patch, picture, picture.tilt)
  const digits = found && fromSI(found.cm, 'cm', system) < 10 ? 1 : 0
  const drag = (r: Ruler, label: string) => (
    <button
      type="button"
      className="answer"
      aria-pressed={ruler === r}
      data-ruler={r}
      onClick={() => {
        setTaken(false)
        onRuler(ruler === r ? undefined : r)
        document.querySelector('.photo-sheet')?.scrollIntoView({ block: 'center' })
      }}
    >
      {label}
      {lines[r] && ' again'}
    </button>
  )
  return (
    <details className="fold">
      <summary>How wide is a patch?</summary>
      <div className="fields">
        <Pick
          label="Lying beside it"
          value={thing}
          onChange={setThing}
          options={[...knownThings.map((t) => [t.id, t.label] as const), ['own', 'Something else'] as const]}
        />
        {thing === 'own' && <Text label={`Its length, ${unitFor('cm', system)?.label ?? 'cm'}`} value={own} onChange={setOwn} />}
      </div>
      <div className="answers scale-drags">
        {drag('known', 'Drag along it')}
        {drag('patch', 'Drag across the patch')}
      </div>
      {ruler && <p className="faint">{ruler === 'known' ? 'Drag from one end of it to the other.' : 'Drag from rim to rim.'}</p>}
      {lines.known && lines.patch && !found && <p className="problem">Too short to go by, or its length is missing.</p>}
      {found && (
        <p role="status">
          <b className="num">
            Patch {show(found.cm, 'cm', system, digits)} ± {fromSI(found.off, 'cm', system).toFixed(digits)}
          </b>{' '}
          {onWidth && (
            <button
              type="button"
              className="offer"
              data-take-width
              disabled={taken}
              onClick={() => {
                setTaken(true)
                onWidth(Math.round(found.cm * 10) / 10)
              }}
            >
              {taken ? 'Taken over' : 'Take over as patch size'}
            </button>
          )}
        </p>
      )}
    </details>
  )
}
