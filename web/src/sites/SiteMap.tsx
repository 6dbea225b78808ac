import { useState } from 'react'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { useMe, useRefresh, useSite } from '../api/queries'
import { show } from '../format'
import { kinds } from '../ground/Drawing'
import type { OnSite } from '../ground/grid'
import { Busy, Problem } from '../Shell'
import { MapForm, type Wanted } from './MapForm'
import { MapSheet } from './MapSheet'
import '../ground/ground.css'
import './sites.css'

type Entry = Schemas['MapEntry']

const hows: Record<Entry['how'], string> = {
  file: 'from a file',
  walked: 'walked with GPS',
  stepped: 'paced or taped',
  drawn: 'tapped on the map',
}

/** The map of a site: the lawns of its zones, and what lies on and along them. */
export default function SiteMap() {
  const { site: id = '' } = useParams()
  const me = useMe().data
  const site = useSite(id)
  const map = useQuery({ queryKey: ['map', id], queryFn: () => got(api.GET('/sites/{id}/map', { params: { path: { id } } })) })
  const [wanted, setWanted] = useState<Wanted>()
  const [taps, setTaps] = useState<OnSite[]>([])
  if (site.isLoadingError) return <Problem error={site.error} />
  if (map.isLoadingError) return <Problem error={map.error} />
  if (!me || !site.data || !map.data) return <Busy what="the map" />
  const may = me.rights.includes('answer-checks')
  const entries = map.data.entries
  const close = () => {
    setWanted(undefined)
    setTaps([])
  }
  return (
    <main className="site-map">
      <p>
        <Link className="back" to={`/sites/${id}`}>
          {site.data.name}
        </Link>
      </p>
      <h1>Site map</h1>
      <div className="site-map-sheet">
        <MapSheet
          entries={entries}
          zones={site.data.zones ?? []}
          units={me.unit_system}
          taps={taps}
          onTap={wanted?.how === 'tap' ? (p) => setTaps([...taps, p]) : undefined}
        />
        <Files site={id} may={may} entries={entries.length} />
      </div>
      <div className="site-map-side">
        {wanted ? (
          <MapForm
            key={wanted.kind + wanted.zone}
            site={id}
            wanted={wanted}
            units={me.unit_system}
            taps={taps}
            onWant={setWanted}
            onTaps={setTaps}
            onDone={close}
          />
        ) : (
          <Lists site={site.data} entries={entries} me={me} may={may} onWant={setWanted} />
        )}
      </div>
    </main>
  )
}

interface Listed {
  site: Schemas['Site']
  entries: Entry[]
  me: Schemas['Me']
  may: boolean
  onWant: (w: Wanted) => void
}

/** What is mapped, lawn by lawn and thing by thing, and what can be added. */
function Lists({ site, entries, me, may, onWant }: Listed) {
  const refresh = useRefresh()
  const drop = useMutation({
    mutationFn: (entry: string) => got(api.DELETE('/sites/{id}/map/{entry}', { params: { path: { id: site.id, entry } } })),
    onSuccess: refresh,
  })
  const things = entries.filter((e) => e.kind !== 'zone')
  return (
    <>
      {drop.isError && <Problem error={drop.error} />}
      <h2>Lawns</h2>
      <ul className="map-list">
        {site.zones?.map((z) => {
          const e = entries.find((x) => x.zone_id === z.id)
          return (
            <li key={z.id}>
              <span>
                <b>{z.name}</b>{' '}
                <span className="faint num">
                  {e
                    ? `${show(e.area_m2 ?? 0, 'm2', me.unit_system)} ± ${Math.round((e.area_error ?? 0) * 100)} %, ${hows[e.how]}`
                    : `no outline yet; ${show(z.area_m2, 'm2', me.unit_system)} on file`}
                </span>
                {e && differ(e, z) && (
                  <small className="wait">
                    Doses use {show(z.area_m2, 'm2', me.unit_system)}, the area on file.{' '}
                    <UseArea site={site.id} entry={e} zone={z} may={may} />
                  </small>
                )}
              </span>
              {may && (
                <Button data-outline={z.id} onClick={() => onWant({ kind: 'zone', zone: z.id, name: z.name, how: 'step', entry: e })}>
                  {e ? 'Measure again' : 'Measure the outline'}
                </Button>
              )}
            </li>
          )
        })}
      </ul>
      <h2>On and along the lawns</h2>
      <ul className="map-list">
        {things.map((e) => (
          <li key={e.id}>
            <span>
              <b>{e.name || kindOf(e)}</b>{' '}
              <span className="faint">
                {[e.name && kindOf(e).toLowerCase(), e.reach_m > 0 && `reaches ${show(e.reach_m, 'm', me.unit_system)}`, hows[e.how]]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </span>
            {may && (
              <Button disabled={drop.isPending} onClick={() => drop.mutate(e.id)} aria-label={`Remove ${e.name || kindOf(e)}`}>
                Remove
              </Button>
            )}
          </li>
        ))}
        {things.length === 0 && (
          <li className="faint">Nothing yet. Drives, trees, sprinklers and slopes tell why damage lies where it lies.</li>
        )}
      </ul>
      {may && (
        <p className="buttons">
          {(Object.keys(kinds) as (keyof typeof kinds)[]).map((kind) => (
            <Button key={kind} data-add={kind} onClick={() => onWant({ kind, zone: '', name: '', how: 'tap' })}>
              + {kinds[kind]}
            </Button>
          ))}
        </p>
      )}
    </>
  )
}

const kindOf = (e: Entry): string => (e.kind === 'zone' ? 'Lawn' : kinds[e.kind])

/** Whether the area on file is off the outline's by more than both are uncertain. */
const differ = (e: Entry, z: Schemas['Zone']): boolean =>
  Math.abs((e.area_m2 ?? 0) - z.area_m2) > z.area_m2 * Math.hypot(e.area_error ?? 0, z.area_error)

/** Takes the outline's area as the zone's. */
function UseArea({ site, entry, zone, may }: { site: string; entry: Entry; zone: Schemas['Zone']; may: boolean }) {
  const refresh = useRefresh()
  const use = useMutation({
    mutationFn: () =>
      got(
        api.PUT('/sites/{id}/map/{entry}', {
          params: { path: { id: site, entry: entry.id } },
          body: {
            kind: 'zone',
            zone_id: zone.id,
            name: entry.name,
            geometry: entry.geometry,
            error_m: entry.error_m,
            use_area: true,
            version: entry.version,
          },
        }),
      ),
    onSuccess: refresh,
  })
  if (!may) return null
  return (
    <button type="button" className="quiet" disabled={use.isPending} onClick={() => use.mutate()} data-use-area={zone.id}>
      Use the outline
    </button>
  )
}

/** The map as a file, out and in. */
function Files({ site, may, entries }: { site: string; may: boolean; entries: number }) {
  const refresh = useRefresh()
  const take = useMutation({
    mutationFn: async (file: File) =>
      got(
        api.POST('/sites/{id}/map/geojson', {
          params: { path: { id: site } },
          body: (await file.text()) as never,
          bodySerializer: (b: unknown) => b as string,
          headers: { 'Content-Type': 'application/geo+json' },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <>
      <p className="buttons">
        {entries > 0 && (
          <a className="export" href={`/api/v1/sites/${site}/map/geojson`} download>
            Save as GeoJSON
          </a>
        )}
        {may && (
          <label className="export">
            {entries > 0 ? 'Replace with a GeoJSON file' : 'Load a GeoJSON file'}
            <input
              type="file"
              className="unseen"
              accept=".geojson,.json,application/geo+json"
              onChange={(e) => {
                const file = e.target.files?.[0]
                e.target.value = ''
                if (file) take.mutate(file)
              }}
            />
          </label>
        )}
      </p>
      {take.isError && <Problem error={take.error} />}
    </>
  )
}
