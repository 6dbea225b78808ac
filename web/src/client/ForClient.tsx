import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, got, Refused, type Schemas } from '../api/client'
import { Busy, Problem } from '../Shell'
import { Closed, Letter } from './Letter'

/** The client's own page, for whoever has its link. */
export default function ForClient() {
  const { token = '' } = useParams()
  const [units, setUnits] = useState<Schemas['ClientPage']['unit_system']>()
  const page = useQuery({
    queryKey: ['for', token, units],
    queryFn: () => got(api.GET('/for/{token}', { params: { path: { token }, query: units ? { units } : {} } })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  })
  if (page.error instanceof Refused && page.error.status === 404) return <Closed />
  if (page.isLoadingError) return <Problem error={page.error} />
  if (!page.data) return <Busy what="your page" />
  const now = page.data.unit_system
  return (
    <main className="for-client">
      <Letter page={page.data} picture={(id) => `/api/v1/for/${token}/pictures/${id}`} />
      <p className="letter-ways">
        <Link className="export" to={`/for/${token}/tell`}>
          Tell us what you see
        </Link>
        <a className="export" href={`/api/v1/for/${token}/pdf?units=${now}`}>
          Save as PDF
        </a>
        <button type="button" className="quiet" onClick={() => setUnits(now === 'us' ? 'metric' : 'us')} data-units={now}>
          {now === 'us' ? 'Show °C and mm' : 'Show °F and inches'}
        </button>
      </p>
    </main>
  )
}
