import { useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { newId, usePeople, useRefresh } from '../api/queries'
import { Buttons, Day, Pick, Text } from '../ui/Field'
import { shown } from '../ui/shown'

/** Every half hour from one to another, as options. */
export function halfHours(first: string, last: string): [string, string][] {
  const minutes = (t: string) => Number(t.slice(0, 2)) * 60 + Number(t.slice(3))
  const out: [string, string][] = []
  for (let m = minutes(first); m <= minutes(last); m += 30) {
    const t = `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`
    out.push([t, t])
  }
  return out
}

export function VisitForm({ site, visit, me, onDone }: { site: string; visit?: Schemas['Visit']; me: Schemas['Me']; onDone: () => void }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const people = usePeople()
  const [id] = useState(() => visit?.id ?? newId())
  const [due, setDue] = useState(visit?.due_on ?? me.today)
  const [reason, setReason] = useState(visit?.reason ?? '')
  const [from, setFrom] = useState(visit?.hours?.from ?? '')
  const [to, setTo] = useState(visit?.hours?.to ?? '')
  const [person, setPerson] = useState(visit?.person_id ?? me.person_id)
  const save = useMutation({
    mutationFn: () => {
      const body: Schemas['Visit'] = {
        id,
        site_id: site,
        zone_id: visit?.zone_id,
        kind: visit?.kind ?? 'diagnosis',
        due_on: due,
        reason,
        ...(from !== '' && to !== '' ? { hours: { from, to } } : {}),
        version: visit?.version ?? 0,
        person_id: person,
      }
      return got(visit ? api.PUT('/visits/{id}', { params: { path: { id } }, body }) : api.POST('/visits', { body }))
    },
    onSuccess: async () => {
      await refresh()
      onDone()
      if (!visit && due <= me.today && me.rights.includes('answer-checks')) void navigate(`/visits/${id}`)
    },
  })
  const halfSaid = (from === '') !== (to === '') || (from !== '' && to <= from)
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label="Visit"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>{visit ? 'Change the visit' : 'Book a visit'}</h2>
      <Day label="Day" required form={me.date_form} value={due} onChange={setDue} />
      <Text label="Reason" value={reason} onChange={setReason} />
      <div className="between">
        <Pick label="Expected from" value={from} onChange={setFrom} options={[['', 'whenever'], ...halfHours('06:00', '19:30')]} />
        <Pick label="to" value={to} onChange={setTo} options={[['', 'whenever'], ...halfHours('06:30', '20:00')]} />
      </div>
      {halfSaid && (
        <p className="faint" role="status">
          Say both hours, the later one second, or leave both at “whenever”.
        </p>
      )}
      <Pick
        label="Who goes"
        value={person}
        onChange={setPerson}
        options={(people.data ?? []).filter((p) => p.active).map((p) => [p.id, p.name] as const)}
      />
      <Buttons pending={save.isPending} error={save.error} onClose={onDone} disabled={halfSaid} />
    </form>
  )
}
