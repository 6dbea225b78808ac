import { useQuery } from '@tanstack/react-query'
import { api, got } from '../api/client'
import { Busy, Problem } from '../Shell'
import './firm.css'

/** The letters that the demo would have sent: nothing leaves this computer. */
export default function Letters() {
  const letters = useQuery({ queryKey: ['letters'], queryFn: () => got(api.GET('/demo/letters')), refetchInterval: 5000 })
  if (letters.isLoadingError) return <Problem error={letters.error} />
  if (!letters.data) return <Busy what="the letters" />
  const list = letters.data
  return (
    <main className="letters">
      <h1>Letters</h1>
      <p className="faint">The demo sends no mail. What it would have sent stands here, the newest first.</p>
      {list.length === 0 && <p className="empty">No letter yet. Send a client their link, or somebody a password link.</p>}
      {list.map((l, i) => (
        <article key={list.length - i} className="mail">
          <h2>{l.subject}</h2>
          <p className="faint">to {l.to}</p>
          <pre>{l.text}</pre>
        </article>
      ))}
    </main>
  )
}
