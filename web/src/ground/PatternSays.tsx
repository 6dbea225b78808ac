import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { patternHere } from '../core/core'
import type { UnitSystem } from '../format'
import type { Plain } from '../visit/Check'
import type { Cells } from './grid'
import { length, patchWidth, reasonOf, sumOf } from './says'

interface Props {
  zone: string
  grid: Schemas['StepGrid']
  cells: Cells
  words: Words
  units: UnitSystem
  disabled: boolean
  standing: (check: string) => Plain
  onTake: (check: string, value: Plain) => void
}

/** What the marked damage comes to, and the answers that follow from it: each is taken over with one press, or left. */
export function PatternSays({ zone, grid, cells, words, units, disabled, standing, onTake }: Props) {
  const r = useQuery({
    queryKey: ['pattern', zone, grid, cells],
    queryFn: () =>
      patternHere(grid, cells).catch(() => got(api.POST('/zones/{id}/pattern', { params: { path: { id: zone } }, body: cells }))),
    placeholderData: keepPreviousData,
    retry: false,
  }).data
  if (!r) return null
  const list = (check: string) => {
    const v = standing(check)
    return Array.isArray(v) ? v.filter((x) => x !== 'none') : []
  }
  const width = patchWidth(r)
  return (
    <div className="pattern-says" role="status">
      <p>{sumOf(r, units)}</p>
      {r.proposals.map((p) => {
        const taken = list(p.finding).includes(p.value)
        return (
          <p key={p.finding + p.value} className="proposal">
            <button
              type="button"
              className="offer"
              aria-pressed={taken}
              disabled={disabled || taken}
              data-proposal={`${p.finding}/${p.value}`}
              onClick={() => onTake(p.finding, [...list(p.finding), p.value])}
            >
              <span className="faint">{taken ? 'Taken' : 'Take'}</span>{' '}
              <b>
                {words.findingLabel(p.finding)}: {words.valueLabel(p.finding, p.value).toLowerCase()}
              </b>
            </button>
            <span className="faint">{reasonOf(p, r)}</span>
          </p>
        )
      })}
      {width !== undefined && (
        <p className="proposal">
          <button
            type="button"
            className="offer"
            disabled={disabled || standing('patch-diameter-cm') === width}
            data-proposal="patch-diameter-cm"
            onClick={() => onTake('patch-diameter-cm', width)}
          >
            <span className="faint">{standing('patch-diameter-cm') === width ? 'Taken' : 'Take'}</span>{' '}
            <b>
              {words.findingLabel('patch-diameter-cm')}: {length(width / 100, units)}
            </b>
          </button>
        </p>
      )}
    </div>
  )
}
