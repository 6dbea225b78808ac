import { useId, useState } from 'react'
import type { Schemas } from '../api/client'
import { Lawn, Things } from './Drawing'
import { stepped, under } from './frame'
import { drawn, lawnOf, middleOf, type OnSite } from './grid'
import './ground.css'

/** One place on a lawn, pointed out on its map by a tap, or with the arrow keys and the space bar; the same again takes it back. */
export function PlaceOnLawn({
  grid,
  at,
  onAt,
}: {
  grid: Schemas['StepGrid']
  at: OnSite | undefined
  onAt: (at: OnSite | undefined) => void
}) {
  const id = useId()
  const frame = grid.grid
  const lawn = lawnOf(grid)
  const [cursor, setCursor] = useState(() => Math.max(0, lawn.indexOf(true)))
  const width = frame.columns * frame.step_m
  const height = frame.rows * frame.step_m
  const thin = Math.max(width, height) / 160
  const put = (cell: number | undefined) => {
    if (cell === undefined || !lawn[cell]) return
    const place = middleOf(frame, cell)
    onAt(at && Math.hypot(at.e - place.e, at.n - place.n) < frame.step_m / 2 ? undefined : place)
  }
  const key = (e: React.KeyboardEvent) => {
    const next = stepped(frame, cursor, e.key)
    if (next !== undefined) setCursor(next)
    else if (e.key === ' ') put(cursor)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <div className="lawn-map place-on-lawn">
      <svg
        viewBox={`${-thin * 4} ${-thin * 4} ${width + thin * 8} ${height + thin * 8}`}
        tabIndex={0}
        role="application"
        aria-label={`Map of the lawn${at ? ', a place is marked' : ''}. Arrow keys move, space marks.`}
        onPointerDown={(e) => put(under(frame, e))}
        onKeyDown={key}
      >
        <Lawn grid={grid} clip={`${id}lawn`} squares="none" thin={thin} />
        <Things frame={frame} things={grid.things} thin={thin} clip={`url(#${id}lawn)`} />
        {at && <circle className="tapped-at" cx={drawn(frame, at)[0]} cy={drawn(frame, at)[1]} r={thin * 4} />}
        <rect
          className="map-at"
          x={(cursor % frame.columns) * frame.step_m}
          y={Math.floor(cursor / frame.columns) * frame.step_m}
          width={frame.step_m}
          height={frame.step_m}
          strokeWidth={thin}
        />
      </svg>
    </div>
  )
}
