import type { ReactNode } from 'react'
import { Button } from 'antd'
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary'
import { Link, useLocation } from 'react-router'
import { renew, Unloaded } from './view'

function Fallback({ error, resetErrorBoundary }: FallbackProps) {
  const unloaded = error instanceof Unloaded
  return (
    <main className="fallen" role="alert">
      <h1>{unloaded ? 'This page could not be loaded' : 'Something broke on this page'}</h1>
      <p>
        {unloaded
          ? 'There is no connection, or Hodos was updated a moment ago. What you entered is kept on this device.'
          : 'It is our fault, not yours. What you entered is kept. If it happens again, tell us what you were doing.'}
      </p>
      {!unloaded && error instanceof Error && <p className="faint">{error.message}</p>}
      <p className="buttons">
        <Button type="primary" onClick={resetErrorBoundary}>
          Try again
        </Button>
        <Link className="export" to="/" onClick={resetErrorBoundary}>
          To the day
        </Link>
      </p>
    </main>
  )
}

/** Keeps what breaks in one view from taking the others down: the bar above stays, and another address begins anew. */
export function Guarded({ children }: { children: ReactNode }) {
  const { pathname } = useLocation()
  return (
    <ErrorBoundary FallbackComponent={Fallback} onReset={renew} resetKeys={[pathname]}>
      {children}
    </ErrorBoundary>
  )
}

/** The whole has fallen over: nothing around it is left to stand on. */
export function LastResort({ error }: FallbackProps) {
  return (
    <main className="fallen" role="alert">
      <h1>Hodos has stopped</h1>
      <p>What you entered is kept on this device. Load the page again; if it stops again, tell us what you were doing.</p>
      {error instanceof Error && <p className="faint">{error.message}</p>}
      <p className="buttons">
        <a className="export" href="/">
          Load again
        </a>
      </p>
    </main>
  )
}
