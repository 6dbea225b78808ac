import { useEffect, useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh } from '../api/queries'
import { fromSI, readNumber, toSI, unitFor, type UnitSystem } from '../format'
import { kinds } from '../ground/Drawing'
import type { OnSite } from '../ground/grid'
import { lengths, lengthUnit, shapeNames, sides, usualPace, walkedOn, type Shape } from '../ground/steps'
import { Buttons, Pick, Text, Tick } from '../ui/Field'
import { shown } from '../ui/shown'

type Walked = Schemas['WalkedPoint'][]
type New = Schemas['NewMapEntry']

/** What is to be put on the map, and how it is taken. */
export interface Wanted {
  kind: New['kind']
  zone: string
  name: string
  how: 'tap' | 'walk' | 'step'
  /** the outline that is taken anew */
  entry?: Schemas['MapEntry'] | undefined
}

interface Props {
  site: string
  wanted: Wanted
  units: UnitSystem
  taps: OnSite[]
  onWant: (w: Wanted) => void
  onTaps: (taps: OnSite[]) => void
  onDone: () => void
}

const hows = {
  zone: [
    ['step', 'Pace it off'],
    ['walk', 'Walk its edge'],
    ['tap', 'Tap its corners'],
  ],
  other: [
    ['tap', 'Tap it on the map'],
    ['walk', 'Stand at it or walk it'],
  ],
} as const

const reaching: Partial<Record<New['kind'], string>> = { tree: 'Radius of the crown', sprinkler: 'Throw radius' }
const told: Partial<Record<New['kind'], string>> = {
  'hard-edge': 'Tap along it, two points or more.',
  tree: 'Tap where the trunk stands.',
  sprinkler: 'Tap where the head stands.',
  slope: 'Tap its top, then its foot.',
  buried: 'Tap it; a pipe or a line by several points.',
  zone: 'Tap its corners in order, all the way round.',
}

/** Takes an outline or a thing: stepped off, walked with the device's position, or tapped. */
export function MapForm({ site, wanted, units, taps, onWant, onTaps, onDone }: Props) {
  const refresh = useRefresh()
  const lawn = wanted.kind === 'zone'
  const [name, setName] = useState('')
  const [reach, setReach] = useState('')
  const [step, setStep] = useState<{ shape: Shape; typed: string[]; taped: boolean }>({ shape: 'rectangle', typed: [], taped: false })
  const [pace, setPace] = usePace()
  const [paceTyped, setPaceTyped] = useState(String(Math.round(fromSI(pace, 'm', units) * 100) / 100))
  const [walked, setWalked] = useState<Walked>([])
  const [useArea, setUseArea] = useState(true)
  const typed = sides[step.shape].map((_, i) => step.typed[i] ?? '')
  const { m, wrong } = lengths(typed, step.taped, pace, units)
  const metres = reaching[wanted.kind] ? readNumber(reach) : undefined
  const ready =
    (wanted.how === 'step' ? wrong < 0 : wanted.how === 'walk' ? walked.length >= (lawn ? 3 : 1) : taps.length >= (lawn ? 3 : 1)) &&
    (!reaching[wanted.kind] || (metres ?? 0) > 0)
  const save = useMutation({
    mutationFn: () => {
      const body: New = {
        kind: wanted.kind,
        name,
        version: wanted.entry?.version ?? 0,
        ...(lawn ? { zone_id: wanted.zone, use_area: useArea } : {}),
        ...(metres ? { reach_m: toSI(metres, 'm', units) } : {}),
        ...(wanted.how === 'step'
          ? { stepped: { shape: step.shape, sides_m: m, taped: step.taped } }
          : wanted.how === 'walk'
            ? { walked }
            : { points: taps, closed: lawn }),
      }
      return got(api.PUT('/sites/{id}/map/{entry}', { params: { path: { id: site, entry: wanted.entry?.id ?? newId() } }, body }))
    },
    onSuccess: async () => {
      await refresh()
      onDone()
    },
  })
  const unit = unitFor('m', units)?.label
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label={lawn ? `Outline of ${wanted.name}` : kinds[wanted.kind as keyof typeof kinds]}
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>{lawn ? `Outline: ${wanted.name}` : kinds[wanted.kind as keyof typeof kinds]}</h2>
      <Pick label="How" value={wanted.how} onChange={(how) => onWant({ ...wanted, how })} options={lawn ? hows.zone : hows.other} />
      {wanted.how === 'tap' && (
        <p className="faint">
          {told[wanted.kind]}{' '}
          {taps.length > 0 && (
            <button type="button" className="quiet" onClick={() => onTaps(taps.slice(0, -1))}>
              Undo the last point
            </button>
          )}
        </p>
      )}
      {wanted.how === 'step' && (
        <>
          <Pick label="Shape" value={step.shape} onChange={(shape) => setStep({ ...step, shape, typed: [] })} options={shapeNames} />
          <Tick label="Measured by tape or wheel, not by paces" value={step.taped} onChange={(taped) => setStep({ ...step, taped })} />
          {!step.taped && (
            <Text
              label={`One pace, ${unit ?? 'm'}`}
              hint="Walk 20 paces along a tape once, and divide."
              value={paceTyped}
              onChange={(t) => {
                setPaceTyped(t)
                const x = readNumber(t)
                if (x !== undefined && x > 0) setPace(toSI(x, 'm', units))
              }}
            />
          )}
          {sides[step.shape].map((label, i) => (
            <Text
              key={label}
              label={label}
              unit={lengthUnit(step.taped, units)}
              value={typed[i] ?? ''}
              onChange={(t) => setStep({ ...step, typed: typed.map((x, k) => (k === i ? t : x)) })}
            />
          ))}
        </>
      )}
      {wanted.how === 'walk' && <Walk walked={walked} onWalked={setWalked} lawn={lawn} />}
      {!lawn && <Text label="Name, if it has one" value={name} onChange={setName} />}
      {reaching[wanted.kind] && <Text label={reaching[wanted.kind] ?? ''} unit={unit} value={reach} onChange={setReach} />}
      {lawn && <Tick label="Use this area for doses" value={useArea} onChange={setUseArea} />}
      <Buttons pending={save.isPending} disabled={!ready} error={save.error} onClose={onDone} />
    </form>
  )
}

/** One's own pace in m, kept on the device. */
function usePace(): [number, (m: number) => void] {
  const [pace, setPace] = useState(() => {
    const kept = Number(localStorage.getItem('hodos-pace'))
    return kept > 0.3 && kept < 2 ? kept : usualPace
  })
  return [
    pace,
    (m) => {
      localStorage.setItem('hodos-pace', String(m))
      setPace(m)
    },
  ]
}

/** Follows the device's position along an edge, and says how good it is. */
function Walk({ walked, onWalked, lawn }: { walked: Walked; onWalked: (w: Walked) => void; lawn: boolean }) {
  const [on, setOn] = useState(false)
  const [said, setSaid] = useState<{ accuracy?: number; problem?: string }>({})
  const [line, setLine] = useState<Walked>(walked)
  useEffect(() => {
    if (!on) return
    const id = navigator.geolocation.watchPosition(
      ({ coords }) => {
        setSaid({ accuracy: coords.accuracy })
        setLine((l) =>
          walkedOn(l, { longitude: coords.longitude, latitude: coords.latitude, accuracy_m: Math.min(coords.accuracy, 10_000) }),
        )
      },
      (e) => {
        // without a view of the sky a position may be missing for a while: it goes on when there is one again
        const never = e.code === e.PERMISSION_DENIED
        if (never) setOn(false)
        setSaid({
          problem: never
            ? 'This device does not let the page know where it is. Allow it in the browser’s settings, or pace the lawn off.'
            : 'No GPS position right now. Step out under the open sky.',
        })
      },
      { enableHighAccuracy: true, maximumAge: 0, timeout: 30_000 },
    )
    return () => navigator.geolocation.clearWatch(id)
  }, [on])
  useEffect(() => onWalked(line), [line, onWalked])
  return (
    <div className="walk" role="status">
      <button type="button" className="answer" aria-pressed={on} onClick={() => setOn(!on)} data-walk>
        {on ? 'Stop' : line.length ? 'Go on' : 'Start'}
      </button>
      <p className="num">
        {line.length} {line.length === 1 ? 'point' : 'points'}
        {said.accuracy !== undefined && `, good to ${Math.round(said.accuracy)} m`}
      </p>
      {said.problem && <p className="problem">{said.problem}</p>}
      <p className="faint">
        {lawn
          ? 'Start at a corner, hold the device up, walk the edge at an easy pace, stop where you began.'
          : 'Stand still for one point; walk for a line.'}
      </p>
      {line.length > 0 && (
        <button type="button" className="quiet" onClick={() => setLine([])}>
          Start over
        </button>
      )}
    </div>
  )
}
