import { useState } from 'react'
import { Button } from 'antd'
import { useQuery } from '@tanstack/react-query'
import { api, got } from '../api/client'
import { Busy, Problem } from '../Shell'
import { Tick } from '../ui/Field'

/** The letter that somebody gets before they leave, if they want one, and what it would say now. */
export function Morning({ wanted, onWanted }: { wanted: boolean; onWanted: (wanted: boolean) => void }) {
  const [open, setOpen] = useState(false)
  const letter = useQuery({ queryKey: ['morning'], queryFn: () => got(api.GET('/me/morning')), enabled: open, staleTime: 0 })
  return (
    <>
      <Tick label="Send me my day by e-mail every morning" value={wanted} onChange={onWanted} />
      <p className="faint">
        Your visits in driving order, jobs due and anything new overnight, sent at 5 a.m. office time. Nothing is sent when there is nothing
        to say.
      </p>
      <p>
        <Button onClick={() => setOpen(!open)} aria-expanded={open}>
          {open ? 'Close' : 'Show today’s'}
        </Button>
      </p>
      {open && letter.isLoadingError && <Problem error={letter.error} />}
      {open && letter.isLoading && <Busy what="the letter" />}
      {open && letter.data && (
        <section className="letter-now" aria-label="Today’s letter">
          <p>
            <b>{letter.data.subject}</b> <span className="faint">to {letter.data.to}</span>
          </p>
          <pre>{letter.data.text}</pre>
          {!letter.data.mail && <p className="caution">This server is not set up to send e-mail. Ask whoever runs it.</p>}
        </section>
      )}
    </>
  )
}
