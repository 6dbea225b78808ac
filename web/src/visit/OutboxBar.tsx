import { useEffect } from 'react'
import { Button } from 'antd'
import { Link } from 'react-router'
import { useWords } from '../api/queries'
import type { Kept } from './kept'
import { outbox } from './box'
import { photos, usePhotos } from '../photo/box'
import { useOutbox, type OutboxState } from './outbox'

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
  const name = (k: Kept) => words?.findingLabel(k.answer.finding) ?? k.answer.finding
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
  if (box.waiting.length > 0 && (box.trouble || box.unsafe))
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
  return (
    <p className="saved unseen" data-state={box.waiting.length ? 'sending' : 'saved'} role="status">
      {box.waiting.length ? 'Sending' : 'All saved'}
    </p>
  )
}

/** Photographs that are not with the server yet. */
export function PicturesBar() {
  const { waiting, unsafe, offline } = usePhotos()
  useEffect(() => {
    void photos.flush() // what an earlier page has left
  }, [])
  const n = waiting.filter((p) => p.refused === undefined).length
  if (n === 0 || !(unsafe || offline)) return null
  const what = n === 1 ? '1 picture' : `${n} pictures`
  return (
    <p className="saved" data-state="pictures" role="status">
      {unsafe
        ? `This device has no room for ${what}: keep the page open until sent.`
        : `${what} kept on this device; sent when the connection is back.`}
    </p>
  )
}

/** Said before somebody signs out. */
export function StillHere({ box }: { box: OutboxState }) {
  const pictures = usePhotos().waiting.length
  if (box.waiting.length + pictures === 0) return null
  const what = [
    box.waiting.length > 0 && count(box.waiting.length),
    pictures > 0 && (pictures === 1 ? '1 picture' : `${pictures} pictures`),
  ].filter(Boolean)
  return (
    <p className="still-here" role="status">
      {what.join(' and ')} not sent yet.{' '}
      {box.unsafe ? 'Signing out loses them.' : 'They stay on this device and go out when you sign in here again.'}
    </p>
  )
}
