import { useEffect, useState } from 'react'
import { Button } from 'antd'
import { Link } from 'react-router'
import { useWords } from '../api/queries'
import type { Kept } from './kept'
import { outbox } from './box'
import { useWrites, writes } from '../offline/writes'
import { photos, usePhotos } from '../photo/box'
import { useOutbox, type OutboxState } from './outbox'
import { onward, type Way } from './onward'

const count = (n: number) => (n === 1 ? '1 answer' : `${n} answers`)

/** What is in the way, as the person would say it. */
function why(box: OutboxState): string {
  const n = count(box.waiting.length)
  const kept = box.unsafe
    ? `This browser cannot store anything: keep the page open until ${n} ${box.waiting.length === 1 ? 'is' : 'are'} sent.`
    : `${n} kept on this device`
  switch (box.trouble) {
    case 'offline':
      return `No connection. ${kept}${box.unsafe ? '' : '; sent when it is back.'}`
    case 'busy':
      return `The server is not taking answers right now. ${kept}${box.unsafe ? '' : '; tried again by itself.'}`
    case 'sign-in':
      return `You are signed out. ${kept}${box.unsafe ? '' : '; sign in to send.'}`
    case 'other-person':
      return `Somebody else has signed in on this device. ${kept} under your name; they go out when you sign in again.`
    case 'held':
      return `Not sent: ${box.reason}. ${kept}${box.unsafe ? '' : '; tried again by itself.'}`
    default:
      return kept
  }
}

/** Stands at the foot of every view while something given on this device is not with the server yet, or was refused. */
export function OutboxBar() {
  const box = useOutbox(outbox)
  const words = useWords()
  const kept = soMany(useKept().counts)
  const name = (k: Kept) => words?.findingLabel(k.answer.finding) ?? k.answer.finding
  const busy = box.waiting.length > 0 || kept !== ''
  const bar = box.waiting.length > 0 && (box.trouble !== '' || box.unsafe)
  const [way, setWay] = useState<Way>('clear')
  const next = onward(way, bar, busy)
  if (next !== way) setWay(next)
  if (box.refused.length > 0)
    return (
      <div className="saved" data-state="refused" role="alert">
        {box.refused.map((k) => (
          <p key={k.id}>
            <b>{name(k)}</b> was not saved: {k.refused}
          </p>
        ))}
        <Button onClick={() => void outbox.dismiss(box.refused)}>Understood</Button>
      </div>
    )
  if (bar)
    return (
      <div className="saved" data-state={box.trouble || 'unsafe'} role="status">
        <p>{why(box)}</p>
        {box.trouble === 'sign-in' || box.trouble === 'other-person' ? (
          <Link to="/sign-in">Sign in</Link>
        ) : (
          <Button onClick={() => void outbox.flush()}>Send now</Button>
        )}
        {box.trouble === 'held' && (
          <Button danger onClick={() => void outbox.dismiss(box.waiting)}>
            Throw {box.waiting.length === 1 ? 'it' : 'them'} away
          </Button>
        )}
      </div>
    )
  // a div as above: the same region for a screen reader, which hears what was in the way end and no word of answers that go their way
  return (
    <div className="saved unseen" data-state={busy ? 'sending' : 'saved'} role="status">
      {next === 'cleared' ? 'All saved' : ''}
    </div>
  )
}

const nouns = { picture: 'picture', note: 'note', measure: 'measurement', record: 'record' }

/** So many of each kind: "2 pictures and 1 note". */
export function soMany(counts: Partial<Record<keyof typeof nouns, number>>): string {
  const parts = (Object.keys(nouns) as (keyof typeof nouns)[]).flatMap((k) => {
    const n = counts[k] ?? 0
    return n === 0 ? [] : [`${n} ${nouns[k]}${n === 1 ? '' : 's'}`]
  })
  return [parts.slice(0, -1).join(', '), parts.at(-1)].filter(Boolean).join(' and ')
}

/** How many of each kind wait, and whether they are safe. */
function useKept() {
  const pictures = usePhotos()
  const written = useWrites()
  const counts = { picture: pictures.waiting.filter((p) => p.refused === undefined).length, note: 0, measure: 0, record: 0 }
  for (const w of written.waiting) if (w.refused === undefined) counts[w.what] += 1
  return {
    counts,
    refused: written.waiting.filter((w) => w.refused !== undefined),
    unsafe: pictures.unsafe || written.unsafe,
    offline: pictures.offline || written.offline,
  }
}

/** Pictures, notes, measurements and records that are not with the server yet. */
export function KeptBar() {
  const { counts, refused, unsafe, offline } = useKept()
  useEffect(() => {
    void photos.flush() // what an earlier page has left
    void writes.flush()
  }, [])
  if (refused.length > 0)
    return (
      <div className="saved" data-state="refused" role="alert">
        {refused.map((w) => (
          <p key={w.id}>
            <b>A {nouns[w.what]}</b> was not saved: {w.refused}
          </p>
        ))}
        <Button onClick={() => refused.forEach((w) => void writes.dismiss(w.id))}>Understood</Button>
      </div>
    )
  const what = soMany(counts)
  if (what === '' || !(unsafe || offline || counts.note + counts.measure + counts.record > 0)) return null
  return (
    <p className="saved" data-state="kept" role="status">
      {unsafe
        ? `This device has no room for ${what}: keep the page open until sent.`
        : `${what} kept on this device; sent when the connection is back.`}
    </p>
  )
}

/** Said before somebody signs out. */
export function StillHere({ box }: { box: OutboxState }) {
  const kept = soMany(useKept().counts)
  if (box.waiting.length === 0 && kept === '') return null
  const what = [box.waiting.length > 0 && count(box.waiting.length), kept].filter(Boolean)
  return (
    <p className="still-here" role="status">
      {what.join(', ')} not sent yet.{' '}
      {box.unsafe ? 'Signing out loses them.' : 'They stay on this device and go out when you sign in here again.'}
    </p>
  )
}
