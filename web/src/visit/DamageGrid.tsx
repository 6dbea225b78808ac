import { useState } from 'react'
import { Link } from 'react-router'

const across = 12
const down = 8

/**
 * The zone as a grid of steps: cells that show damage are marked by tap, by dragging or with the arrow keys and the space
 * bar, and give the share affected.
 */
export function DamageGrid({ damaged, disabled, onChange }: { damaged: number[]; disabled: boolean; onChange: (cells: number[]) => void }) {
  const [at, setAt] = useState(0)
  const [stroke, setStroke] = useState<{ cells: Set<number>; add: boolean } | undefined>()
  const set = stroke?.cells ?? new Set(damaged)
  const toggled = (cell: number) => {
    const next = new Set(damaged)
    if (!next.delete(cell)) next.add(cell)
    return [...next].sort((a, b) => a - b)
  }
  const cellOf = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const x = Math.floor(((e.clientX - box.left) / box.width) * across)
    const y = Math.floor(((e.clientY - box.top) / box.height) * down)
    return Math.max(0, Math.min(across - 1, x)) + across * Math.max(0, Math.min(down - 1, y))
  }
  return (
    <div className="plan">
      <svg
        viewBox={`0 0 ${across * 10} ${down * 10}`}
        tabIndex={0}
        role="application"
        aria-label={`Plan of the zone, ${set.size} of ${across * down} steps damaged. Arrow keys move, space damaged.`}
        onPointerDown={(e) => {
          if (disabled) return
          e.currentTarget.setPointerCapture(e.pointerId)
          const c = cellOf(e)
          const add = !damaged.includes(c)
          const cells = new Set(damaged)
          if (add) cells.add(c)
          else cells.delete(c)
          setStroke({ cells, add })
        }}
        onPointerMove={(e) => {
          if (!stroke) return
          const c = cellOf(e)
          if (stroke.add === stroke.cells.has(c)) return
          const cells = new Set(stroke.cells)
          if (stroke.add) cells.add(c)
          else cells.delete(c)
          setStroke({ ...stroke, cells })
        }}
        onPointerUp={() => {
          if (stroke) onChange([...stroke.cells].sort((a, b) => a - b))
          setStroke(undefined)
        }}
        onKeyDown={(e) => {
          const x = at % across
          const y = Math.floor(at / across)
          const go: Record<string, number> = {
            ArrowLeft: x > 0 ? at - 1 : at,
            ArrowRight: x < across - 1 ? at + 1 : at,
            ArrowUp: y > 0 ? at - across : at,
            ArrowDown: y < down - 1 ? at + across : at,
          }
          const next = go[e.key]
          if (next !== undefined) {
            setAt(next)
          } else if (e.key === ' ' && !disabled) {
            onChange(toggled(at))
          } else return
          e.preventDefault()
          e.stopPropagation()
        }}
      >
        <rect className="plan-lawn" width={across * 10} height={down * 10} />
        {Array.from({ length: across * down }, (_, i) => (
          <rect
            key={i}
            className="plan-cell"
            data-marked={set.has(i)}
            data-at={i === at}
            x={(i % across) * 10 + 0.6}
            y={Math.floor(i / across) * 10 + 0.6}
            width="8.8"
            height="8.8"
            rx="1"
          />
        ))}
      </svg>
      <p className="num plan-share">{set.size ? `${Math.round((set.size / (across * down)) * 100)} % affected` : 'mark the damage'}</p>
      <Link className="quiet" to="/train">
        Train your eye
      </Link>
    </div>
  )
}

export const planShare = (cells: number): number => Math.round((cells / (across * down)) * 100)
