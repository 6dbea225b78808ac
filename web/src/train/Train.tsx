import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, got } from '../api/client'
import { Busy, Problem } from '../Shell'
import { useKept } from '../visit/useKept'
import { inWords, type Said } from './eye'
import './train.css'

const most = 30 // plots that are looked back on

function asList(x: unknown): Said[] | undefined {
  return Array.isArray(x) && x.every((s: Partial<Said> | null) => Number.isFinite(s?.said) && Number.isFinite(s?.was))
    ? (x as Said[])
    : undefined
}

/** Shares that are said with one press. */
const shares = [1, 2, 5, 10, 15, 20, 25, 30, 40, 50, 60, 70, 80]

const another = () => Math.floor(Math.random() * 1e9)

/** A drawn piece of lawn is estimated; then it says what it was, and how the eye stands. */
export default function Train() {
  const [seed, setSeed] = useState(another)
  const [list, setList] = useKept('hodos-eye', asList)
  const [said, setSaid] = useState<number>()
  const plot = useQuery({
    queryKey: ['plot', seed],
    queryFn: () => got(api.GET('/plots/{seed}', { params: { path: { seed } } })),
    staleTime: Infinity,
  })
  if (plot.isLoadingError) return <Problem error={plot.error} />
  if (!plot.data) return <Busy what="a plot" />
  const { rows, share } = plot.data
  return (
    <main className="train">
      <h1>Train your eye</h1>
      <p>How much of this piece of lawn is damaged?</p>
      <svg
        viewBox={`0 0 ${rows[0]?.length ?? 0} ${rows.length}`}
        role="img"
        aria-label="A piece of lawn with damaged patches"
        data-plot={share}
      >
        <rect width="100%" height="100%" className="train-turf" />
        {rows.flatMap((row, y) =>
          row
            .split('')
            .map((c, x) => c === '#' && <rect key={`${x}-${y}`} x={x} y={y} width="1.02" height="1.02" className="train-straw" />),
        )}
      </svg>
      {said === undefined ? (
        <div className="answers" role="group" aria-label="Damaged">
          {shares.map((s) => (
            <button
              key={s}
              type="button"
              className="answer"
              data-value={s}
              onClick={() => {
                setSaid(s)
                setList([...(list ?? []), { said: s, was: share }].slice(-most))
              }}
            >
              {s} %
            </button>
          ))}
        </div>
      ) : (
        <div className="train-was" role="status">
          <p>
            It is <b className="num">{share} %</b>; you said {said} %.
          </p>
          <button
            type="button"
            className="answer"
            data-another
            onClick={() => {
              setSaid(undefined)
              setSeed(another())
            }}
          >
            Another plot
          </button>
        </div>
      )}
      <p className="faint" data-eye>
        {inWords(list ?? [])}
      </p>
    </main>
  )
}
