import { keepPreviousData, QueryClient, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { v7 } from 'uuid'
import { figure, type UnitSystem } from '../format'
import { api, askForToken, got, keepToken, ownerOf, Refused, tokenOwner, type Schemas } from './client'

export const newId = (): string => v7()

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      refetchOnWindowFocus: false,
      networkMode: 'always',
      gcTime: 24 * 3600_000,
      retry: (n, e) => !(e instanceof Refused) && n < 2,
    },
    mutations: { networkMode: 'always' }, // what cannot be sent fails at once, and is kept
  },
})

async function readMe(): Promise<Schemas['Me']> {
  const me = await got(api.GET('/me'))
  keepToken(me)
  return me
}

export const useMe = () => useQuery({ queryKey: ['me'], queryFn: readMe, staleTime: 60_000 })

/** Whose page this is, as far as it knows; the empty string when nobody is signed in. */
export const ownerHere = (): string => {
  const me = queryClient.getQueryData<Schemas['Me']>(['me'])
  return me ? ownerOf(me) : ''
}

/**
 * Asks anew whose session this is, and takes its token when it is still the same person's. When another has signed in, in another
 * tab, this page keeps its old token, with which nothing of it can be written in their name. The empty string when nobody is.
 */
export async function renewMe(): Promise<string> {
  try {
    const me = await got(api.GET('/me'))
    if (tokenOwner() === '' || tokenOwner() === ownerOf(me)) {
      keepToken(me)
      queryClient.setQueryData(['me'], me)
    }
    return ownerOf(me)
  } catch (e) {
    if (!(e instanceof Refused) || e.status !== 401) throw e
    keepToken()
    return ''
  }
}
askForToken(renewMe)

export const useWelcome = () => useQuery({ queryKey: ['welcome'], queryFn: () => got(api.GET('/welcome')) })
/** The day, asked again while the watch is looking or has not yet looked at today. */
/** Where and when a round begins; nothing for at eight, wherever is best. */
export interface Begins {
  from: string
  leave: string
}
export const useDay = (mine = false, begins?: Begins) =>
  useQuery({
    queryKey: ['day', mine, ...(begins ? [begins.from, begins.leave] : [])],
    queryFn: () => got(api.GET('/day', { params: { query: { mine, ...begins } } })),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state: { data } }) =>
      !data?.watch ? false : !data.watch.finished ? 1000 : data.watch.day < data.today ? 3000 : false,
  })
/** The firm's sites that a search fits, a page at a time. */
export const useSites = (find = '') =>
  useInfiniteQuery({
    queryKey: ['sites', find],
    queryFn: ({ pageParam: after }) => got(api.GET('/sites', { params: { query: { find, after } } })),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
    placeholderData: keepPreviousData,
  })
export const useSite = (id: string) =>
  useQuery({
    queryKey: ['site', id],
    queryFn: () => got(api.GET('/sites/{id}', { params: { path: { id } } })),
    enabled: id !== '',
  })
/** The site that a zone is part of. */
export const useSiteOfZone = (zone: string) =>
  useQuery({ queryKey: ['site-of-zone', zone], queryFn: () => got(api.GET('/zones/{id}/site', { params: { path: { id: zone } } })) })
export const useHistory = (id: string) =>
  useQuery({
    queryKey: ['history', id],
    queryFn: () => got(api.GET('/sites/{id}/history', { params: { path: { id } } })),
    enabled: id !== '',
  })
/** The first of the firm's clients that a search fits. */
export const useClients = (find = '') =>
  useQuery({
    queryKey: ['clients', find],
    queryFn: () => got(api.GET('/clients', { params: { query: { find } } })),
    placeholderData: keepPreviousData,
  })
export const useClient = (id: string) =>
  useQuery({
    queryKey: ['client', id],
    queryFn: () => got(api.GET('/clients/{id}', { params: { path: { id } } })),
    enabled: id !== '',
  })
export const usePeople = (enabled = true) => useQuery({ queryKey: ['people'], queryFn: () => got(api.GET('/people')), enabled })
export const useCalls = () => useQuery({ queryKey: ['calls'], queryFn: () => got(api.GET('/calls')) })
export const useCall = (id: string) =>
  useQuery({ queryKey: ['call', id], queryFn: () => got(api.GET('/calls/{id}', { params: { path: { id } } })) })
export const useLetters = (enabled: boolean) =>
  useQuery({ queryKey: ['letters'], queryFn: () => got(api.GET('/demo/letters')), enabled, staleTime: 0 })
export const useFirm = () => useQuery({ queryKey: ['firm'], queryFn: () => got(api.GET('/firm')) })
export const visitQuery = (id: string) => ({
  queryKey: ['visit', id],
  queryFn: () => got(api.GET('/visits/{id}', { params: { path: { id } } })),
})
export const useVisit = (id: string) => useQuery(visitQuery(id))
/** The jobs of a zone's plan. */
export const zoneJobsQuery = (visit: string, zone: string) => ({
  queryKey: ['zone-jobs', visit, zone],
  queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/jobs', { params: { path: { id: visit, zone } } })),
})
/** How things are counted; it does not change while the page is open. */
export const protocolsQuery = { queryKey: ['protocols'], queryFn: () => got(api.GET('/counts')), staleTime: Infinity }
export const useProtocols = () => useQuery(protocolsQuery)
/** What records, former visits and other zones answer already. */
export const offersQuery = (visit: string, zone: string) => ({
  queryKey: ['offers', visit, zone],
  queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/offers', { params: { path: { id: visit, zone } } })),
})
export const useOffers = (visit: string, zone: string) => useQuery({ ...offersQuery(visit, zone), enabled: zone !== '' })
export const recoveryQuery = (zone: string) => ({
  queryKey: ['recovery', zone],
  queryFn: () => got(api.GET('/zones/{id}/recovery', { params: { path: { id: zone } } })),
})
export const useRecovery = (zone: string) => useQuery(recoveryQuery(zone))
export const useLikely = (month: number, site: string) =>
  useQuery({
    queryKey: ['likely', month, site],
    queryFn: () => got(api.GET('/causes', { params: { query: site ? { month, site } : { month } } })),
  })
export const useCause = (id: string) =>
  useQuery({
    queryKey: ['cause', id],
    queryFn: () => got(api.GET('/causes/{id}', { params: { path: { id } } })),
  })

export interface Words {
  /** in which quantities are read */
  system: UnitSystem
  raw: Schemas['Vocabulary']
  finding: Map<string, Schemas['VFinding']>
  cause: Map<string, Schemas['VCause']>
  action: Map<string, Schemas['VAction']>
  procedure: Map<string, Schemas['VProcedure']>
  species: Map<string, Schemas['VSpecies']>
  /** What a specialist reads for a finding, weather findings and those kept once a cause included. */
  findingLabel: (id: string) => string
  valueLabel: (finding: string, value: unknown) => string
}

export function words(raw: Schemas['Vocabulary'], system: UnitSystem = 'metric'): Words {
  const by = <T extends { id: string }>(list: T[]) => new Map(list.map((x) => [x.id, x]))
  const finding = by(raw.findings)
  const cause = by(raw.causes)
  const weather = by(raw.weather_findings)
  const values = new Map(raw.findings.flatMap((f) => f.values).map((v) => [v.id, v.label]))
  const one = (v: unknown): string => {
    if (typeof v === 'boolean') return v ? 'yes' : 'no'
    if (typeof v === 'number') return String(Math.round(v * 100) / 100)
    if (typeof v === 'string') return values.get(v) ?? cause.get(v)?.label ?? v.replaceAll('-', ' ')
    return ''
  }
  return {
    system,
    raw,
    finding,
    cause,
    action: by(raw.actions),
    procedure: by(raw.procedures),
    species: by(raw.species),
    findingLabel: (id) => {
      const [base = id, per] = id.split(':')
      const label = finding.get(base)?.label ?? weather.get(base)?.label ?? id.replaceAll('-', ' ')
      return per ? `${label}: ${cause.get(per)?.label.toLowerCase() ?? per}` : label
    },
    valueLabel: (id, value) => {
      if (Array.isArray(value)) return value.length ? value.map(one).join(', ') : 'none of these'
      return typeof value === 'number' ? figure(value, finding.get(id)?.measure ?? '', system) : one(value)
    },
  }
}

/** The words of the vocabulary, quantities in the units of whoever reads. */
export function useWords(): Words | undefined {
  const system = useMe().data?.unit_system ?? 'metric'
  const raw = useQuery({ queryKey: ['vocabulary'], queryFn: () => got(api.GET('/vocabulary')), staleTime: Infinity }).data
  return useMemo(() => raw && words(raw, system), [raw, system])
}

/** Everything that moving the clock or a record may have changed. */
export function useRefresh() {
  const client = useQueryClient()
  return () => client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'vocabulary' && q.queryKey[0] !== 'welcome' })
}

export function useAdvance() {
  const refresh = useRefresh()
  return useMutation({ mutationFn: (days: number) => got(api.POST('/demo/clock', { body: { days } })), onSuccess: refresh })
}
/** What the bench can work out. */
export const useBench = () => useQuery({ queryKey: ['bench'], queryFn: () => got(api.GET('/bench')), staleTime: Infinity })
