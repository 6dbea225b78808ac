import { api, got } from '../api/client'

/** The photographs of a zone on a visit, and what they come to. */
export const photosQuery = (visit: string, zone: string) => ({
  queryKey: ['photos', visit, zone],
  queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/photos', { params: { path: { id: visit, zone } } })),
})

/** All photographs of a zone. */
export const zonePhotosQuery = (zone: string) => ({
  queryKey: ['photos', 'zone', zone],
  queryFn: () => got(api.GET('/zones/{id}/photos', { params: { path: { id: zone } } })),
})
