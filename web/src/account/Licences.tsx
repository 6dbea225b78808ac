import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Busy, Problem } from '../Shell'

async function read(): Promise<string> {
  const r = await fetch('/notices.txt')
  if (!r.ok || !r.headers.get('content-type')?.startsWith('text/plain')) throw new Error('The licences are not part of this build')
  return r.text()
}

/** The terms of everything of others that Hodos is made of. */
export default function Licences() {
  const text = useQuery({ queryKey: ['notices'], queryFn: read, staleTime: Infinity, retry: false })
  if (text.isLoadingError) return <Problem error={text.error} />
  if (!text.data) return <Busy what="the licences" />
  return (
    <main className="licences">
      <p>
        <Link className="back" to="/account">
          Your account
        </Link>
      </p>
      <h1>Licences</h1>
      <pre tabIndex={0}>{text.data}</pre>
    </main>
  )
}
