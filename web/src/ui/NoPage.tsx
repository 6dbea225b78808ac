import { Link, Outlet, useParams } from 'react-router'

/** An address that leads nowhere, with the way back. */
export function NoPage() {
  return (
    <main className="fallen">
      <h1>There is no page here</h1>
      <p>The address is misspelt, or what it led to is gone.</p>
      <p className="buttons">
        <Link className="export" to="/">
          To the day
        </Link>
      </p>
    </main>
  )
}

const id = /^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/i

/** Pages of which these parts of the address name something: where one is no id, no page is there. */
export function Addressed({ ids }: { ids: string[] }) {
  const params = useParams()
  const named = ids.map((name) => params[name]).filter((x) => x !== undefined)
  return named.every((x) => id.test(x)) ? <Outlet /> : <NoPage />
}
