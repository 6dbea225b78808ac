import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { useSettled } from '../ui/useSettled'

export interface Asked {
  action: string
  product_id?: string
  lot_id?: string
  machine_id?: string
  supervisor_id?: string
  target?: string
  area_m2?: number
  rate?: number
  carrier?: number
  tank_l?: number
  at?: string
  posted?: boolean
}

/** How the job would be done, and what stands against it: asked anew whenever something that was entered has settled. */
export const useProposal = (visit: string, zone: string, asked: Asked | undefined) => {
  const settled = useSettled(asked, 300)
  return useQuery({
    queryKey: ['proposal', visit, zone, settled],
    queryFn: () =>
      got(
        api.POST('/visits/{id}/zones/{zone}/proposal', {
          params: { path: { id: visit, zone } },
          body: settled as Schemas['ProposingBody'],
        }),
      ),
    enabled: settled !== undefined && settled.action !== '',
    placeholderData: keepPreviousData,
    staleTime: 5000,
  })
}
