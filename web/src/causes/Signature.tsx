import type { ReactNode } from 'react'
import type { Words } from '../api/queries'
import type { Schemas } from '../api/client'
import { percent } from '../format'

// Drawn signatures: what a cause makes of the lawn, seen from above, and of a single blade. The tables say which of them a
// cause shows and how often; this file only knows how each is drawn. The marks of damage carry one colour and differ in
// shape.

const blob = (x: number, y: number, r: number, k: number) => {
  const at = Array.from({ length: 9 }, (_, i) => {
    const a = (i / 9) * Math.PI * 2
    const q = r * (0.78 + 0.3 * Math.abs(Math.sin(i * 2.3 + k)))
    return `${(x + q * Math.cos(a) * 1.25).toFixed(1)} ${(y + q * Math.sin(a)).toFixed(1)}`
  })
  return `M${at[0]}L${at.slice(1).join('L')}Z`
}
const spots: [number, number][] = [
  [22, 24],
  [51, 15],
  [79, 30],
  [108, 19],
  [33, 52],
  [66, 56],
  [94, 62],
  [122, 48],
  [16, 74],
  [54, 79],
  [84, 82],
  [115, 77],
]
const big: [number, number][] = [
  [38, 34],
  [97, 30],
  [70, 68],
]

const patterns: Record<string, ReactNode> = {
  uniform: <rect className="hurt" x="0" y="0" width="140" height="92" opacity=".75" />,
  'irregular-patches': (
    <>
      {big.map(([x, y], i) => (
        <path key={x} className="hurt" d={blob(x, y, 15 + i * 3, i)} />
      ))}
      <path className="hurt" d={blob(118, 72, 12, 4)} />
    </>
  ),
  'small-round-spots': (
    <>
      {spots.map(([x, y]) => (
        <circle key={`${x}${y}`} className="hurt" cx={x} cy={y} r="4.5" />
      ))}
    </>
  ),
  'round-patches': (
    <>
      {big.map(([x, y], i) => (
        <circle key={x} className="hurt" cx={x} cy={y} r={14 + i * 4} />
      ))}
    </>
  ),
  rings: (
    <>
      <circle className="hurt-line" cx="52" cy="46" r="31" />
      <path className="hurt-line" d="M96 12a30 30 0 0 1 28 42" />
    </>
  ),
  'frog-eye': (
    <>
      {big.map(([x, y], i) => (
        <circle key={x} className="hurt-line" cx={x} cy={y} r={11 + i * 3} />
      ))}
    </>
  ),
  'lines-or-streaks': <path className="hurt-line" d="M12 16C50 26 84 18 128 34M8 48C46 56 90 46 132 64M22 76C60 82 92 76 122 86" />,
  'along-hardscape': (
    <>
      <rect className="stone" x="0" y="0" width="34" height="92" />
      <path className="hurt" d="M34 0h15l-3 18 5 20-4 22 4 32H34z" />
    </>
  ),
  'low-spots': (
    <>
      <path className="hurt" d={blob(70, 60, 24, 2)} />
      <path className="drawn-level" d="M30 60C46 78 94 78 112 60M18 46C46 74 96 74 124 46" />
    </>
  ),
  'high-spots-or-slopes': (
    <>
      <path className="hurt" d={blob(70, 32, 22, 1)} />
      <path className="drawn-level" d="M22 84C40 30 100 30 118 84M38 86C52 48 88 48 102 86" />
    </>
  ),
  'sprinkler-arcs': (
    <>
      <path className="hurt" d="M70 12C88 34 88 58 70 80C52 58 52 34 70 12Z" />
      <path className="drawn-level" d="M8 6a52 52 0 0 1 0 80M132 6a52 52 0 0 0 0 80" />
    </>
  ),
  'spreader-stripes': (
    <>
      {[18, 54, 90, 126].map((x) => (
        <rect key={x} className="hurt" x={x - 7} y="0" width="14" height="92" />
      ))}
    </>
  ),
  'scattered-blades': (
    <>
      {spots.map(([x, y]) => (
        <path key={`${x}${y}`} className="hurt-line thin" d={`M${x} ${y + 6}q3 -7 1 -13M${x + 6} ${y + 5}q-2 -6 2 -11`} />
      ))}
    </>
  ),
  'matted-patches': (
    <>
      {big.map(([x, y], i) => (
        <g key={x}>
          <path className="hurt" d={blob(x, y, 16 + i * 2, i + 3)} />
          <path className="mat" d={`M${x - 14} ${y - 4}q14 7 28 0M${x - 15} ${y + 4}q15 7 29 0`} />
        </g>
      ))}
    </>
  ),
  'wheel-tracks': (
    <>
      <path className="hurt-line" d="M20 92C40 60 84 44 128 0M44 92C62 70 100 54 140 16" />
    </>
  ),
  mottled: (
    <>
      {spots.map(([x, y], i) => (
        <path key={`${x}${y}`} className="hurt" opacity=".7" d={blob(x, y, 8, i)} />
      ))}
    </>
  ),
}

export function PatternDrawing({ id, label }: { id: string; label: string }) {
  if (!patterns[id]) return null
  return (
    <svg className="pattern-drawing" viewBox="0 0 140 92" role="img" aria-label={`On the lawn: ${label}`}>
      <rect className="drawn-lawn" width="140" height="92" />
      {patterns[id]}
      <rect className="frame" x=".75" y=".75" width="138.5" height="90.5" />
    </svg>
  )
}

// the blade stands from the collar at the bottom to the tip
const bladePath = 'M30 150C27 100 27 50 36 8C45 50 45 100 42 150Z'
const blade = <path className="blade" d={bladePath} />
const lesion = (kind: string, at: [number, number][], r: [number, number]) =>
  at.map(([x, y]) => <ellipse key={y} className={kind} cx={x} cy={y} rx={r[0]} ry={r[1]} />)
const stripe = (cls: string) => <path className={cls} d="M34 146C32 100 33 60 36 22M38 146C40 100 39 60 36 22" />

const leaves: Record<string, ReactNode> = {
  'tip-dieback': <path className="hurt" d="M29 66C30 44 33 22 36 8C39 22 42 44 43 66Q36 58 29 66Z" />,
  'whole-leaf-blight': <path className="hurt" d={bladePath} />,
  'hourglass-lesion-tan-with-brown-border': (
    <path className="lesion-pale" d="M28 62Q36 68 43.500 62L40 80Q41 84 43 98Q36 92 28.500 98Q31 84 32 80Z" />
  ),
  'oval-lesion-purple-border': lesion(
    'lesion-ringed',
    [
      [35, 48],
      [38, 84],
      [34, 116],
    ],
    [4.5, 8],
  ),
  'irregular-lesion-tan-dark-border': (
    <>
      <path className="lesion-thin" d="M29 58L38 52L42 70L34 82L28 74Z" />
      <path className="lesion-thin" d="M33 102L42 98L43 118L36 124Z" />
    </>
  ),
  'grey-felted-lesion': (
    <>
      {lesion(
        'lesion-felt',
        [
          [36, 54],
          [36, 96],
        ],
        [6, 10],
      )}
      <path className="twist" d="M36 8q12 -6 14 6" />
    </>
  ),
  'orange-pustules': (
    <>
      {[
        [33, 40],
        [38, 52],
        [34, 66],
        [39, 80],
        [33, 94],
        [38, 108],
        [34, 124],
      ].map(([x, y]) => (
        <ellipse key={y} className="pustule" cx={x} cy={y} rx="2" ry="4.500" />
      ))}
    </>
  ),
  'white-powder': (
    <>
      {[
        [33, 36],
        [38, 48],
        [33, 62],
        [39, 74],
        [34, 88],
        [38, 102],
        [34, 118],
        [38, 130],
      ].map(([x, y]) => (
        <circle key={y} className="powder" cx={x} cy={y} r="4.5" />
      ))}
    </>
  ),
  'red-threads': <path className="thread" d="M36 10C30 0 24 -2 20 4M36 10C36 -2 40 -8 46 -6M37 12C46 4 52 4 56 10" />,
  'interveinal-yellow': (
    <>
      {stripe('veins')}
      <path className="pale-fill" d={bladePath} />
      {stripe('veins')}
    </>
  ),
  'uniform-yellow': <path className="yellow" d={bladePath} />,
  'older-leaves-yellow': (
    <>
      <path className="yellow" d="M40 150C56 120 66 96 68 66C54 84 42 110 36 150Z" />
    </>
  ),
  'new-leaves-yellow': (
    <>
      <path className="yellow" d="M30 80C28 60 30 30 36 8C42 30 44 60 42 80Z" />
    </>
  ),
  'purple-tint': <path className="purple" d={bladePath} />,
  'rolled-or-folded': (
    <>
      <path className="fold" d="M36 8V150" />
      <path className="hurt-line thin" d="M31 140C31 90 34 40 36 10" />
    </>
  ),
  'chewed-notches': (
    <>
      {[
        [43, 46],
        [29, 74],
        [44, 100],
        [29, 122],
      ].map(([x, y]) => (
        <circle key={y} className="bite" cx={x} cy={y} r="6.5" />
      ))}
    </>
  ),
  'windowpane-feeding': (
    <>
      {[
        [35, 44],
        [38, 76],
        [34, 108],
      ].map(([x, y]) => (
        <rect key={y} className="pane" x={(x ?? 0) - 3} y={(y ?? 0) - 9} width="6" height="18" />
      ))}
    </>
  ),
  stippled: (
    <>
      {[34, 42, 50, 58, 66, 74, 82, 90, 98, 106, 114, 122].map((y, i) => (
        <circle key={y} className="dot" cx={33 + (i % 3) * 3} cy={y} r="1.6" />
      ))}
    </>
  ),
  'greasy-water-soaked': <path className="greasy" d={bladePath} />,
  'scorched-margins': <path className="hurt-line" d="M31 132C29 90 30 50 36 12C42 50 43 90 41 132" />,
  'sheared-off-at-soil': (
    <>
      <path className="cut" d="M22 128L50 118" />
      <path className="gap" d="M25 130L50 121L50 127L26 136Z" />
    </>
  ),
  'stunted-tufted': (
    <path
      className="tuft"
      d="M36 150C30 126 22 118 14 116M36 150C34 124 30 110 26 100M36 150C38 124 42 110 46 100M36 150C42 126 50 118 58 116M36 150V104"
    />
  ),
  'mosaic-streaks': (
    <>
      {[
        [33, 30, 14],
        [38, 48, 18],
        [33, 72, 16],
        [39, 92, 14],
        [34, 114, 18],
      ].map(([x, y, h]) => (
        <rect key={y} className="pane" x={(x ?? 0) - 1.5} y={y} width="3" height={h} />
      ))}
    </>
  ),
  'white-or-banded-streaks': (
    <>
      {[36, 62, 88, 114].map((y) => (
        <path key={y} className="band" d={`M28 ${y}H44`} />
      ))}
    </>
  ),
}
const bladeless = ['stunted-tufted']

export function LeafDrawing({ id, label }: { id: string; label: string }) {
  if (!leaves[id]) return null
  return (
    <svg className="leaf-drawing" viewBox="4 -8 64 164" preserveAspectRatio="none" role="img" aria-label={`On the blade: ${label}`}>
      <path className="soil" d="M2 152H70" />
      {!bladeless.includes(id) && blade}
      {leaves[id]}
    </svg>
  )
}

/** What a cause draws on the lawn and on the blade, with how often it shows it. */
export function Signature({ page, words, most = 2 }: { page: Schemas['CausePage']; words: Words; most?: number }) {
  const seen = [
    ...page.patterns.slice(0, most).map((s) => ({ ...s, finding: 'pattern' })),
    ...page.leaves.slice(0, most).map((s) => ({ ...s, finding: 'leaf-symptoms' })),
  ]
  if (seen.length === 0) return <p className="faint">No distinctive sign on lawn or blade; use other checks.</p>
  return (
    <div className="signature">
      {seen.map((s) => {
        const label = words.valueLabel(s.finding, s.id)
        return (
          <figure key={s.id} data-signature={s.id}>
            {s.finding === 'pattern' ? <PatternDrawing id={s.id} label={label} /> : <LeafDrawing id={s.id} label={label} />}
            <figcaption>
              {label} <span className="num faint">{percent(s.chance)} %</span>
            </figcaption>
          </figure>
        )
      })}
    </div>
  )
}

export const drawn = { patterns: Object.keys(patterns), leaves: Object.keys(leaves) }
