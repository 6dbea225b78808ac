import { useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh } from '../api/queries'
import { Buttons, Text } from '../ui/Field'
import { shown } from '../ui/shown'

export function ClientForm({ client, onDone }: { client?: Schemas['Client']; onDone: (id: string) => void }) {
  const refresh = useRefresh()
  const [d, setD] = useState<Schemas['Client']>(client ?? { id: newId(), name: '', phone: '', email: '', notes: '', version: 0 })
  const save = useMutation({
    mutationFn: () =>
      got(client ? api.PUT('/clients/{id}', { params: { path: { id: d.id } }, body: d }) : api.POST('/clients', { body: d })),
    onSuccess: async () => {
      await refresh()
      onDone(d.id)
    },
  })
  return (
    <form
      ref={shown}
      tabIndex={-1}
      className="form side"
      aria-label="Client"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>{client ? 'Change the client' : 'New client'}</h2>
      <Text label="Name" required value={d.name} onChange={(name) => setD({ ...d, name })} />
      <Text label="Telephone" value={d.phone} onChange={(phone) => setD({ ...d, phone })} />
      <Text label="Mail" type="email" value={d.email} onChange={(email) => setD({ ...d, email })} />
      <Text label="Notes" value={d.notes} onChange={(notes) => setD({ ...d, notes })} />
      <Buttons pending={save.isPending} error={save.error} onClose={() => onDone('')} />
    </form>
  )
}
