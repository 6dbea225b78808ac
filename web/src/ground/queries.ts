import { api, got } from '../api/client'

/** The step grid of a zone. */
export const gridQuery = (zone: string) => ({
  queryKey: ['grid', zone],
  queryFn: () => got(api.GET('/zones/{id}/grid', { params: { path: { id: zone } } })),
})
