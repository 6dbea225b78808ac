import { api, got } from '../api/client'

/** The step grid of a zone, with what was damaged before the visit that one is on. */
export const gridQuery = (visit: string, zone: string) => ({
  queryKey: ['grid', visit, zone],
  queryFn: () => got(api.GET('/zones/{id}/grid', { params: { path: { id: zone }, query: { visit } } })),
})
