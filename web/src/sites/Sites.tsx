import { useState } from 'react'
import { Button } from 'antd'
import { Link, useNavigate, useParams } from 'react-router'
import { Refused, type Schemas } from '../api/client'
import { useClient, useMe, useSite, useSites, useWords, type Words } from '../api/queries'
import { show, showDate } from '../format'
import { SeenHere } from '../notes/Notes'
import { Busy, Problem } from '../Shell'
import { ClientForm } from './ClientForm'
import { EraseClient } from './EraseClient'
import { Happened } from './Happened'
import { SiteForm } from './SiteForm'
import { SiteList } from './SiteList'
import { VisitForm } from './VisitForm'
import { ZoneForm } from './ZoneForm'
import './sites.css'

type Me = Schemas['Me']
type Open =
  | { what: 'site'; site?: Schemas['Site'] }
  | { what: 'zone'; zone?: Schemas['Zone'] }
  | { what: 'client'; client?: string }
  | { what: 'erase'; client: string }
  | { what: 'visit'; visit?: Schemas['Visit'] }
  | undefined

/** The firm's sites, and one of them whole. Without one in the address, the first of the list is shown beside it. */
export default function Sites() {
  const { site: named = '' } = useParams()
  const navigate = useNavigate()
  const me = useMe().data
  const words = useWords()
  const first = useSites('').data?.pages[0]
  const chosen = named || (first?.sites[0]?.id ?? '')
  const [open, setOpen] = useState<Open>()
  if (!me || !words) return <Busy what="the sites" />
  const keeps = me.rights.includes('keep-sites')
  // a form that finishes late closes itself, not the one opened since
  const close = () => setOpen((now) => (now === open ? undefined : now))
  return (
    <main className="sites" data-chosen={named !== ''}>
      <SiteList chosen={chosen} onGo={close}>
        {keeps && (
          <p className="buttons">
            <Button onClick={() => setOpen({ what: 'site' })}>New site</Button>
            <Button onClick={() => setOpen({ what: 'client' })}>New client</Button>
          </p>
        )}
      </SiteList>
      {chosen ? (
        <OneSite key={chosen} id={chosen} me={me} words={words} onOpen={setOpen} />
      ) : (
        first && <p className="empty">No site yet. Begin with a client, then the site and its zones.</p>
      )}
      {open?.what === 'site' && (
        <SiteForm
          key={open.site?.id ?? 'new'}
          site={open.site}
          me={me}
          onDone={(id) => {
            close()
            if (id) void navigate(`/sites/${id}`)
          }}
        />
      )}
      {open?.what === 'client' && <OpenClient key={open.client ?? 'new'} id={open.client ?? ''} onDone={close} />}
      {open?.what === 'erase' && <EraseClient key={open.client} client={open.client} form={me.date_form} onDone={close} />}
      {open?.what === 'zone' && chosen && (
        <ZoneForm key={open.zone?.id ?? 'new'} zone={open.zone} site={chosen} me={me} words={words} onDone={close} />
      )}
      {open?.what === 'visit' && chosen && (
        <VisitForm key={open.visit?.id ?? chosen} site={chosen} visit={open.visit} me={me} onDone={close} />
      )}
    </main>
  )
}

/** The client's form, once the client is there; a new one is there at once. */
function OpenClient({ id, onDone }: { id: string; onDone: () => void }) {
  const client = useClient(id)
  if (client.isLoadingError) return <Problem error={client.error} />
  if (id && !client.data) return <Busy what="the client" />
  return <ClientForm client={client.data} onDone={onDone} />
}

function OneSite({ id, me, words, onOpen }: { id: string; me: Me; words: Words; onOpen: (open: Open) => void }) {
  const found = useSite(id)
  const missing = found.error instanceof Refused && found.error.status === 404
  if (missing) return <p className="empty">There is no site at this address. Pick one from the list.</p>
  if (found.isLoadingError) return <Problem error={found.error} />
  if (!found.data) return <Busy what="the site" />
  const site = found.data
  return (
    <section className="site" aria-label={site.name}>
      <p className="back-to-list">
        <Link className="back" to="/sites">
          All sites
        </Link>
      </p>
      <h2>{site.name}</h2>
      <p>
        {site.client_name}
        <br />
        {site.address}
        <br />
        <span className="num faint">
          {Math.abs(site.latitude).toFixed(3)}° {site.latitude < 0 ? 'S' : 'N'}, {Math.abs(site.longitude).toFixed(3)}°{' '}
          {site.longitude < 0 ? 'W' : 'E'}, {site.timezone}
        </span>
      </p>
      {site.access_notes && <p className="notice">{site.access_notes}</p>}
      <p>
        {site.lines_located_on
          ? `Buried lines located on ${showDate(site.lines_located_on, me.date_form)}`
          : 'Buried lines not located. Do not core or dig until they are.'}
      </p>
      <SiteButtons site={site} me={me} onOpen={onOpen} />
      <Zones site={site} me={me} words={words} onOpen={onOpen} />
      <Happened site={site} me={me} words={words} onChange={(visit) => onOpen({ what: 'visit', visit })} />
    </section>
  )
}

function SiteButtons({ site, me, onOpen }: { site: Schemas['Site']; me: Me; onOpen: (open: Open) => void }) {
  return (
    <p className="buttons">
      <Link className="export" to={`/sites/${site.id}/client`}>
        Client’s page
      </Link>{' '}
      <Link className="export" to={`/sites/${site.id}/map`}>
        Site map
      </Link>
      {me.rights.includes('book-visits') && (
        <Button type="primary" onClick={() => onOpen({ what: 'visit' })}>
          Book a visit
        </Button>
      )}
      {me.rights.includes('keep-sites') && (
        <>
          <Button onClick={() => onOpen({ what: 'site', site })}>Change the site</Button>
          <Button onClick={() => onOpen({ what: 'client', client: site.client_id })}>Change the client</Button>
          <Button onClick={() => onOpen({ what: 'zone' })}>Add a zone</Button>
        </>
      )}
      {me.rights.includes('keep-firm') && (
        <Button danger onClick={() => onOpen({ what: 'erase', client: site.client_id })}>
          Erase the client
        </Button>
      )}
    </p>
  )
}

function Zones({ site, me, words, onOpen }: { site: Schemas['Site']; me: Me; words: Words; onOpen: (open: Open) => void }) {
  const zones = site.zones ?? []
  return (
    <>
      <h3>Zones</h3>
      <ul className="zone-list">
        {zones.map((z) => (
          <li key={z.id}>
            <b>{z.name}</b> <span className="num">{show(z.area_m2, 'm2', me.unit_system)}</span>
            <span className="faint">
              {z.species.map((s) => words.species.get(s)?.label ?? s).join(' with ')}
              {z.cultivar && ` (${z.cultivar}${z.sown_year ? `, ${z.sown_year}` : ''})`}
              {z.texture ? `, ${z.texture.replaceAll('-', ' ')}` : ''}
              {z.irrigated === true ? ', irrigated' : z.irrigated === false ? ', not irrigated' : ''}
            </span>
            {me.rights.includes('answer-checks') && <SeenHere zone={z.id} />}
            <span className="buttons">
              <Link className="export" to={`/zones/${z.id}/sky`}>
                Sky
              </Link>
              <Link className="export" to={`/zones/${z.id}/recovery`}>
                Recovery
              </Link>
              {me.rights.includes('keep-sites') && <Button onClick={() => onOpen({ what: 'zone', zone: z })}>Change</Button>}
            </span>
          </li>
        ))}
      </ul>
      {zones.length === 0 && <p className="empty">No zone yet. Each zone is diagnosed separately.</p>}
    </>
  )
}
