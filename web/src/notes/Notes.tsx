import { useRef, useState } from 'react'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Button } from 'antd'
import { api, got, type Schemas } from '../api/client'
import { newId, type Words } from '../api/queries'
import { showDate, type DateForm } from '../format'
import { base64 } from '../offline/base64'
import { useWrites, write } from '../offline/writes'
import { Problem } from '../Shell'
import { seenSaid } from './words'
import './notes.css'

/** The notes on a zone. */
export const notesQuery = (zone: string) => ({
  queryKey: ['notes', zone],
  queryFn: () => got(api.GET('/zones/{id}/notes', { params: { path: { id: zone } } })),
})
const useNotes = (zone: string) => useQuery({ ...notesQuery(zone), enabled: zone !== '' })

/** Keeps a note: with the server, or on the device until that can be reached. */
const useTakeNote = (zone: string) =>
  useMutation({
    mutationFn: (body: Schemas['NewNote']) => write(newId(), { what: 'note', zone, body: { ...body, noted_at: new Date().toISOString() } }),
  })

/** The notes on a zone that are not with the server yet. */
const useWaitingNotes = (zone: string) =>
  useWrites().waiting.flatMap((w) => (w.what === 'note' && w.zone === zone && w.refused === undefined ? [w] : []))

/** What was seen here on an ordinary round and waits for a look: each leads to its check. */
export function SeenOnRounds({ zone, form, words, onGo }: { zone: string; form: DateForm; words: Words; onGo: (finding: string) => void }) {
  const open = (useNotes(zone).data ?? []).filter((n) => n.open)
  if (open.length === 0) return null
  return (
    <div className="seen-on-rounds" role="status">
      {open.map((n) => (
        <p key={n.id} data-seen={n.kind}>
          {n.by} on {showDate(n.noted_on, form)}: {seenSaid(n.kind)}
          {n.text && ` ${n.text}`}
          <button type="button" className="offer" onClick={() => onGo(n.finding)}>
            Check: {words.findingLabel(n.finding).toLowerCase()}
          </button>
        </p>
      ))}
    </div>
  )
}

/** One tap on an ordinary round. */
export function SeenHere({ zone }: { zone: string }) {
  const take = useTakeNote(zone)
  const open = (useNotes(zone).data ?? []).filter((n) => n.open)
  const waiting = useWaitingNotes(zone)
  const seen = (kind: string) => open.some((n) => n.kind === kind) || waiting.some((w) => w.body.kind === kind)
  return (
    <span className="seen-here" role="group" aria-label="Noticed on a round">
      <span className="faint">Noticed:</span>
      {(['soft', 'pale', 'dug'] as const).map((kind) => (
        <button
          key={kind}
          type="button"
          className="answer"
          aria-pressed={seen(kind)}
          disabled={take.isPending || seen(kind)}
          onClick={() => take.mutate({ kind })}
          data-see={kind}
        >
          {kind}
        </button>
      ))}
      {take.isError && <Problem error={take.error} />}
    </span>
  )
}

interface Props {
  visit: string
  zone: string
  /** the check in hand, which a note is about unless the person says otherwise */
  about: string
  words: Words
  form: DateForm
  may: boolean
}

/** Notes on a zone, typed or spoken. They are for people: the scales do not read them. */
export function Notes({ visit, zone, about, words, form, may }: Props) {
  const list = useNotes(zone).data ?? []
  const waiting = useWaitingNotes(zone)
  const take = useTakeNote(zone)
  const [text, setText] = useState('')
  const [check, setCheck] = useState(true)
  const speech = useSpeech()
  const save = async () => {
    const sound = speech.sound && (await base64(speech.sound))
    take.mutate(
      { kind: 'note', visit_id: visit, text, ...(check && about ? { finding: about } : {}), ...(sound ? { sound } : {}) },
      {
        onSuccess: () => {
          setText('')
          speech.clear()
        },
      },
    )
  }
  return (
    <section className="notes" aria-label="Notes">
      <h3>Notes</h3>
      {may && (
        <>
          <textarea aria-label="New note" rows={2} maxLength={2000} value={text} onChange={(e) => setText(e.target.value)} />
          {about && (
            <label className="tick-line">
              <input type="checkbox" checked={check} onChange={(e) => setCheck(e.target.checked)} /> about{' '}
              {words.findingLabel(about).toLowerCase()}
            </label>
          )}
          <p className="buttons">
            <Button
              type="primary"
              disabled={text.trim() === '' && !speech.sound}
              loading={take.isPending}
              onClick={() => void save()}
              data-save-note
            >
              Save the note
            </Button>
            <Button onClick={() => void speech.toggle()} aria-pressed={speech.recording} data-speak>
              {speech.recording ? 'Stop recording' : speech.sound ? 'Speak again' : 'Speak it'}
            </Button>
          </p>
          {speech.problem && <p className="problem">{speech.problem}</p>}
          {speech.sound && <p role="status">Recorded. Save the note to keep it.</p>}
          {take.isError && <Problem error={take.error} />}
        </>
      )}
      <ul>
        {waiting.map((w) => (
          <li key={w.id} data-state="here">
            <span className="faint">Saved on this device{w.body.finding && `, ${words.findingLabel(w.body.finding).toLowerCase()}`}</span>{' '}
            {w.body.text || (w.body.kind === 'note' ? 'Spoken note' : seenSaid(w.body.kind))}
          </li>
        ))}
        {list.map((n) => (
          <li key={n.id}>
            <span className="faint">
              {showDate(n.noted_on, form)}, {n.by}
              {n.finding && `, ${words.findingLabel(n.finding).toLowerCase()}`}
            </span>{' '}
            {n.kind === 'note' ? n.text : `${seenSaid(n.kind)} ${n.text}`}
            {n.has_sound && <audio controls preload="none" src={`/api/v1/notes/${n.id}/sound`} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

const longest = 120_000 // ms of speech (judgement); about a megabyte

/** Records speech; without a microphone it says so. */
function useSpeech() {
  const recorder = useRef<MediaRecorder | undefined>(undefined)
  const [recording, setRecording] = useState(false)
  const [sound, setSound] = useState<Blob>()
  const [problem, setProblem] = useState('')
  const toggle = async () => {
    if (recorder.current) return recorder.current.stop()
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true })
      const parts: Blob[] = []
      const r = new MediaRecorder(stream, { audioBitsPerSecond: 32_000 })
      r.ondataavailable = (e) => parts.push(e.data)
      r.onstop = () => {
        stream.getTracks().forEach((t) => t.stop())
        recorder.current = undefined
        setRecording(false)
        setSound(new Blob(parts, { type: r.mimeType }))
      }
      r.start()
      recorder.current = r
      setProblem('')
      setRecording(true)
      setTimeout(() => recorder.current === r && r.stop(), longest)
    } catch {
      setProblem('No microphone can be used here. Allow it in the browser’s settings, or type the note.')
    }
  }
  return { recording, sound, problem, toggle, clear: () => setSound(undefined) }
}
