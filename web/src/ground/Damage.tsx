import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import type { Words } from '../api/queries'
import { showDate, type DateForm, type UnitSystem } from '../format'
import { photosQuery } from '../photo/queries'
import { Busy } from '../Shell'
import type { Plain } from '../visit/Check'
import { cellsFrom, damageOn, lawnOf, share, type PointOnLawn } from './grid'
import { PatternSays } from './PatternSays'
import { gridQuery } from './queries'
import { StepGrid } from './StepGrid'
import './ground.css'

interface Props {
  visit: string
  dates: DateForm
  site: string
  zone: string
  words: Words
  units: UnitSystem
  disabled: boolean
  standing: (check: string) => Plain
  onAnswers: (list: { check: string; value: Plain }[]) => void
}

/** Marking the damage of a zone on its map, with what follows from it. */
export function Damage({ visit, dates, site, zone, words, units, disabled, standing, onAnswers }: Props) {
  const grid = useQuery({ ...gridQuery(visit, zone), enabled: zone !== '' }).data
  const pictures = useQuery({ ...photosQuery(visit, zone), enabled: zone !== '' }).data?.photos ?? []
  if (!grid) return <Busy what="the map of the lawn" />
  const cells = cellsFrom(standing('damaged-cells'))
  const percent = share(lawnOf(grid), damageOn(grid.grid, cells))
  const points = (standing('points') as unknown as PointOnLawn[] | null) ?? []
  return (
    <section className="damage" aria-label="Damage on the map">
      <StepGrid
        grid={grid}
        cells={cells}
        points={points}
        pictures={pictures.flatMap((p) => p.at ?? [])}
        disabled={disabled}
        onCells={(next, part) =>
          onAnswers([
            { check: 'damaged-cells', value: next as unknown as Plain },
            { check: 'affected-area-percent', value: next ? part : null },
          ])
        }
        onPoints={(next) => onAnswers([{ check: 'points', value: next.length ? (next as unknown as Plain) : null }])}
      />
      <p className="map-share">
        <b className="num">{percent ? `${percent} % affected` : 'Mark the damage'}</b>
        <Link className="quiet" to="/train">
          Train your eye
        </Link>
        <Link className="quiet" to={`/sites/${site}/map`}>
          {grid.grid.plain ? 'Measure the lawn' : 'Site map'}
        </Link>
      </p>
      {grid.before && grid.before.cells.length > 0 && (
        <p className="faint">Dotted: damaged on {showDate(grid.before.on, dates)}. Pull and look there first.</p>
      )}
      {grid.grid.plain && <p className="faint">This lawn has no outline yet: the map tells the share, not sizes or shapes.</p>}
      {cells && (
        <PatternSays
          zone={zone}
          grid={grid}
          cells={cells}
          words={words}
          units={units}
          disabled={disabled}
          standing={standing}
          onTake={(check, value) => onAnswers([{ check, value }])}
        />
      )}
    </section>
  )
}
