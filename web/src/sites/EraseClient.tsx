import { useState } from 'react'
import { Button } from 'antd'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh } from '../api/queries'
import { showDate, type DateForm } from '../format'
import { Busy, Problem } from '../Shell'
import { Text } from '../ui/Field'
import { shown } from '../ui/shown'

const of = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`

/** What there is of several kinds, as one would say it; empty where there is none of any. */
function listed(parts: [number, string, string][]): string {
  const said = parts.filter(([n]) => n > 0).map(([n, one, many]) => of(n, one, many))
  return said.length < 2 ? said.join('') : `${said.slice(0, -1).join(', ')} and ${said.at(-1) ?? ''}`
}

/** What goes at once, in plain words. */
export function goes(e: Schemas['Erasing']): string[] {
  const whole = listed([
    [e.photos, 'picture', 'pictures'],
    [e.notes, 'note', 'notes'],
    [e.calls, 'call from the client', 'calls from the client'],
  ])
  return [
    'Name, telephone, email and notes of the client',
    e.sites === 1
      ? 'Name, address and access notes of the site; its place is kept to about ten kilometres'
      : `Names, addresses and access notes of ${e.sites} sites; their places are kept to about ten kilometres`,
    ...(whole ? [whole] : []),
    'Site maps, reasons of visits and words typed into records',
    ...(e.open > 0 ? [listed([[e.open, 'visit or job that is booked', 'visits and jobs that are booked']])] : []),
    'Links to the client’s page close',
  ]
}

/** What stays, and how. */
export function stays(e: Schemas['Erasing'], form: DateForm): string[] {
  const out: string[] = []
  if (e.visits > 0)
    out.push(`What was found and done on ${of(e.visits, 'visit', 'visits')}, without a name: it counts in the firm’s figures`)
  if (e.named > 0 && e.keep_until)
    out.push(
      `${of(e.named, 'treatment record', 'treatment records')} with name and address, in the book of applications alone, until ` +
        `${showDate(e.keep_until, form)}: they have to be kept for ${e.years === 1 ? 'a year' : `${e.years} years`}. ` +
        'Then the name goes there, too',
    )
  out.push('Backups and exports made before today: delete those yourself')
  return out
}

/** Forgets a client; says first what that means. */
export function EraseClient({ client, form, onDone }: { client: string; form: DateForm; onDone: () => void }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const [name, setName] = useState('')
  const [id] = useState(newId)
  const look = useQuery({
    queryKey: ['erasure', client],
    queryFn: () => got(api.GET('/clients/{id}/erasure', { params: { path: { id: client } } })),
    staleTime: 0,
  })
  const erase = useMutation({
    mutationFn: () => got(api.POST('/clients/{id}/erasure', { params: { path: { id: client } }, body: { id, name } })),
    onSuccess: async () => {
      await refresh()
      onDone()
      void navigate('/sites')
    },
  })
  if (look.isLoadingError) return <Problem error={look.error} />
  if (!look.data) return <Busy what="what is known of the client" />
  const e = look.data
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label="Erase the client"
      onSubmit={(x) => {
        x.preventDefault()
        erase.mutate()
      }}
    >
      <h2>Erase {e.client}</h2>
      <h3>This goes at once, for good</h3>
      <ul>
        {goes(e).map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      <h3>This stays</h3>
      <ul>
        {stays(e, form).map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
      <Text label="Type the client’s name to go on" value={name} onChange={setName} />
      {erase.isError && <Problem error={erase.error} />}
      <p className="buttons">
        <Button danger htmlType="submit" loading={erase.isPending} disabled={name.trim().toLowerCase() !== e.client.trim().toLowerCase()}>
          Erase for good
        </Button>
        <Button onClick={onDone}>Close</Button>
      </p>
    </form>
  )
}
