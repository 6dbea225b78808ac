import { useEffect, useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { Button } from 'antd'
import type { Schemas } from '../api/client'
import { newId } from '../api/queries'
import { measurePicture, type PhotoWanted, type Seen } from '../core/core'
import type { OnSite } from '../ground/grid'
import { PlaceOnLawn } from '../ground/PlaceOnLawn'
import { gridQuery } from '../ground/queries'
import { photos } from './box'
import { Scale, type Lines, type Ruler } from './Scale'
import { faultsSaid, shareSaid } from './words'

/** A picture in hand. */
export interface InHand {
  width: number
  height: number
  jpeg: Blob
  takenAt: Date
  tilt: number | undefined
}

type Tool = 'card' | 'like' | 'other' | Ruler | undefined
type Wants = PhotoWanted & { like: { x: number; y: number }[]; other: { x: number; y: number }[] }

const usual: Wants = { hue_low: 60, hue_high: 120, saturation: 0.1, like: [], other: [] }

/** What the core sees in the picture in hand, asked anew when what is wanted changes; the newest question wins. */
function useSeen(wants: Wants, about: 'cover' | 'moss', tilt: number | undefined) {
  const [out, setOut] = useState<{ seen?: Seen; mask?: Uint8Array; problem: string }>({ problem: '' })
  const key = JSON.stringify([wants, about, tilt ?? null])
  useEffect(() => {
    let stale = false
    const [w, what, held] = JSON.parse(key) as [Wants, string, number | null]
    const { like, other, ...limits } = w
    if (what === 'moss' && (like.length < 3 || other.length < 3)) return
    measurePicture({ ...limits, ...(what === 'moss' ? { like, other } : {}), ...(held === null ? {} : { tilt: held }) }).then(
      (m) => {
        if (!stale) setOut({ ...m, problem: m.seen.card ?? '' })
      },
      (e: unknown) => {
        if (!stale) setOut({ problem: e instanceof Error ? e.message : String(e) })
      },
    )
    return () => {
      stale = true
    }
  }, [key])
  return about === 'moss' && (wants.like.length < 3 || wants.other.length < 3) ? { problem: '' } : out
}

/** Measures the picture in hand: the mask lies over it, limits can be moved, a grey card marked, moss pointed out; then it is kept. */
export function Measure({
  visit,
  zone,
  picture,
  onDone,
  onWidth,
}: {
  visit: string
  zone: string
  picture: InHand
  onDone: () => void
  onWidth?: (cm: number) => void
}) {
  const [lines, setLines] = useState<Lines>({})
  const [about, setAbout] = useState<'cover' | 'moss' | 'show'>('cover')
  const [spot, setSpot] = useState<Schemas['NewPhoto']['spot']>('worst')
  const [wants, setWants] = useState(usual)
  const [tool, setTool] = useState<Tool>()
  const [shown, setShown] = useState(true)
  const [note, setNote] = useState('')
  const [at, setAt] = useState<OnSite>()
  const grid = useQuery(gridQuery(visit, zone)).data
  const measuring = about === 'show' ? 'cover' : about
  const { seen, mask, problem } = useSeen(wants, measuring, picture.tilt)
  const faults = about === 'show' ? '' : faultsSaid(seen?.faults ?? [])
  const keep = async () => {
    const { like, other, ...limits } = wants
    await photos.put({
      id: newId(),
      visit,
      zone,
      jpeg: picture.jpeg,
      body: {
        taken_at: picture.takenAt.toISOString(),
        kind: about === 'show' ? 'show' : 'measure',
        about: measuring,
        spot,
        note,
        ...(at ? { at } : {}),
        ...(picture.tilt === undefined ? {} : { tilt: picture.tilt }),
        wanted: about === 'moss' ? { ...limits, like, other } : limits,
        ...(about === 'show' || !seen ? {} : { seen: { cover: seen.cover, error: seen.uncertain, index: seen.index } }),
      },
    })
    onDone()
  }
  const ready = about === 'show' || (seen !== undefined && problem === '')
  return (
    <section className="photos" aria-label="Measure the picture">
      <Sheet
        picture={picture}
        mask={about !== 'show' && shown ? mask : undefined}
        wants={wants}
        tool={tool}
        lines={lines}
        onWants={setWants}
        onTool={setTool}
        onLines={setLines}
      />
      <p className="photo-reading" role="status" data-cover={seen?.cover}>
        {about === 'show' ? (
          <span className="faint">Kept as a picture; nothing is measured.</span>
        ) : seen ? (
          <>
            <b className="num">
              {about === 'moss' ? 'Moss' : 'Green cover'} {shareSaid(seen.cover, seen.uncertain)}
            </b>
            {about === 'cover' && seen.index > 0 && <span className="num faint"> colour index {seen.index.toFixed(2)}</span>}
            <button type="button" className="quiet" aria-pressed={shown} onClick={() => setShown(!shown)} data-mask>
              {shown ? 'Hide what counts' : 'Show what counts'}
            </button>
          </>
        ) : (
          <span className="faint">{about === 'moss' ? 'Point three times at moss, and three times at grass.' : 'Measuring …'}</span>
        )}
      </p>
      {(problem || faults) && <p className="problem">{problem || faults}</p>}
      <div className="answers" role="group" aria-label="What is measured">
        {(
          [
            ['cover', 'Green cover'],
            ['moss', 'Moss'],
            ['show', 'Photo only'],
          ] as const
        ).map(([v, l]) => (
          <button key={v} type="button" className="answer" aria-pressed={about === v} data-about={v} onClick={() => setAbout(v)}>
            {l}
          </button>
        ))}
      </div>
      {about === 'cover' && <Limits wants={wants} tool={tool} onWants={setWants} onTool={setTool} />}
      {about === 'moss' && <Pointing wants={wants} tool={tool} onWants={setWants} onTool={setTool} />}
      <Scale
        picture={picture}
        lines={lines}
        ruler={tool === 'known' || tool === 'patch' ? tool : undefined}
        onRuler={setTool}
        onWidth={onWidth}
      />
      <div className="answers" role="group" aria-label="Where it was taken">
        {(
          [
            ['worst', 'Bad spot'],
            ['healthy', 'Good spot'],
            ['', 'Anywhere'],
          ] as const
        ).map(([v, l]) => (
          <button key={v} type="button" className="answer" aria-pressed={spot === v} onClick={() => setSpot(v)}>
            {l}
          </button>
        ))}
      </div>
      {grid && !grid.grid.plain && (
        <details className="fold">
          <summary>{at ? 'Marked on the map' : 'Mark it on the map'}</summary>
          <PlaceOnLawn grid={grid} at={at} onAt={setAt} />
        </details>
      )}
      <label className="field">
        <span>Note</span>
        <input className="plain-field" value={note} maxLength={500} onChange={(e) => setNote(e.target.value)} />
      </label>
      <p className="buttons">
        <Button type="primary" disabled={!ready} onClick={() => void keep()} data-keep-photo>
          Keep it
        </Button>
        <Button onClick={onDone}>Throw it away</Button>
      </p>
    </section>
  )
}

interface Tools {
  wants: Wants
  tool: Tool
  onWants: (w: Wants) => void
  onTool: (t: Tool) => void
}

/** The limits of what counts as green, and the grey card. */
function Limits({ wants, tool, onWants, onTool }: Tools) {
  const slider = (label: string, at: 'hue_low' | 'hue_high' | 'saturation', least: number, most: number, step: number, said: string) => (
    <label className="slider">
      <span>
        {label} <b className="num">{said}</b>
      </span>
      <input
        type="range"
        min={least}
        max={most}
        step={step}
        value={wants[at]}
        data-limit={at}
        onChange={(e) => onWants({ ...wants, [at]: Number(e.target.value) })}
      />
    </label>
  )
  return (
    <details className="fold">
      <summary>What counts as green</summary>
      {slider('Yellow limit', 'hue_low', 45, wants.hue_high - 1, 1, `${wants.hue_low}°`)}
      {slider('Blue limit', 'hue_high', wants.hue_low + 1, 140, 1, `${wants.hue_high}°`)}
      {slider('Minimum colour', 'saturation', 0, 0.5, 0.01, `${Math.round(wants.saturation * 100)} %`)}
      <p className="buttons">
        <button
          type="button"
          className="answer"
          aria-pressed={tool === 'card'}
          onClick={() => onTool(tool === 'card' ? undefined : 'card')}
        >
          {wants.card ? 'Mark the grey card again' : 'There is a grey card in the picture'}
        </button>
        <button
          type="button"
          className="quiet"
          onClick={() => {
            onTool(undefined)
            onWants(usual)
          }}
        >
          Usual limits
        </button>
      </p>
      {tool === 'card' && <p className="faint">Drag across the card in the picture.</p>}
    </details>
  )
}

/** Pointing out what is moss and what is grass. */
function Pointing({ wants, tool, onWants, onTool }: Tools) {
  return (
    <div className="answers">
      {(
        [
          ['like', 'Point at moss'],
          ['other', 'Point at grass'],
        ] as const
      ).map(([t, l]) => (
        <button key={t} type="button" className="answer" aria-pressed={tool === t} data-point={t} onClick={() => onTool(t)}>
          {l} <b className="num">{wants[t].length}</b>
        </button>
      ))}
      {wants.like.length + wants.other.length > 0 && (
        <button type="button" className="quiet" onClick={() => onWants({ ...wants, like: [], other: [] })}>
          Start over
        </button>
      )}
    </div>
  )
}

/** The picture, with what does not count laid under a veil, and what was marked on it. */
function Sheet({
  picture,
  mask,
  wants,
  tool,
  lines,
  onWants,
  onTool,
  onLines,
}: Tools & { picture: InHand; mask: Uint8Array | undefined; lines: Lines; onLines: (l: Lines) => void }) {
  const [url] = useState(() => URL.createObjectURL(picture.jpeg))
  useEffect(() => () => URL.revokeObjectURL(url), [url])
  const veil = useRef<HTMLCanvasElement>(null)
  const from = useRef<{ x: number; y: number } | undefined>(undefined)
  useEffect(() => {
    const pen = veil.current?.getContext('2d')
    if (!pen) return
    pen.clearRect(0, 0, picture.width, picture.height)
    if (mask?.length !== picture.width * picture.height) return
    const lie = pen.createImageData(picture.width, picture.height)
    const pixels = new Uint32Array(lie.data.buffer)
    // a light veil over what does not count (byte order as in memory: opacity first)
    for (let i = 0; i < pixels.length; i++) pixels[i] = mask[i] ? 0 : 0xc8ffffff
    pen.putImageData(lie, 0, 0)
  }, [mask, picture])
  const at = (e: React.PointerEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const within = (x: number) => Math.min(1, Math.max(0, x))
    return { x: within((e.clientX - box.left) / box.width), y: within((e.clientY - box.top) / box.height) }
  }
  return (
    <div
      className="photo-sheet"
      data-tool={tool}
      style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
      onPointerDown={(e) => {
        const p = at(e)
        if (tool === 'card' || tool === 'known' || tool === 'patch') {
          e.currentTarget.setPointerCapture(e.pointerId)
          from.current = p
        } else if (tool) onWants({ ...wants, [tool]: [...wants[tool], p].slice(-20) })
      }}
      onPointerUp={(e) => {
        const a = from.current
        from.current = undefined
        if (!a) return
        const b = at(e)
        if (tool === 'known' || tool === 'patch') {
          onLines({ ...lines, [tool]: { from: a, to: b } })
          onTool(undefined)
          return
        }
        const card = { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) }
        if (card.w > 0.005 && card.h > 0.005) {
          onWants({ ...wants, card })
          onTool(undefined)
        }
      }}
    >
      <img src={url} alt="The picture" draggable={false} />
      <canvas ref={veil} width={picture.width} height={picture.height} aria-hidden="true" />
      <svg className="scale-marks" viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true">
        {(['known', 'patch'] as const).map((r) => {
          const s = lines[r]
          return s && <line key={r} data-ruler={r} x1={s.from.x} y1={s.from.y} x2={s.to.x} y2={s.to.y} />
        })}
      </svg>
      {wants.card && (
        <span
          className="card-mark"
          style={{
            left: `${wants.card.x * 100}%`,
            top: `${wants.card.y * 100}%`,
            width: `${wants.card.w * 100}%`,
            height: `${wants.card.h * 100}%`,
          }}
        />
      )}
      {(['like', 'other'] as const).flatMap((t) =>
        wants[t].map((p, i) => (
          <span key={t + String(i)} className="tap-mark" data-tap={t} style={{ left: `${p.x * 100}%`, top: `${p.y * 100}%` }} />
        )),
      )}
    </div>
  )
}
