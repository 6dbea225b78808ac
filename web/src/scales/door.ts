import { api, got, type Schemas } from '../api/client'

/**
 * The one door to the scales. Every view asks here what a zone's evidence comes to, so that the same call can later be
 * answered by the core in the browser instead of the server.
 */
export interface ScalesDoor {
  read(visit: string, zone: string): Promise<Schemas['Scales']>
  answer(visit: string, zone: string, answers: Schemas['NewAnswer'][]): Promise<Schemas['Scales']>
}

export const scalesDoor: ScalesDoor = {
  read: (id, zone) => got(api.GET('/visits/{id}/zones/{zone}/scales', { params: { path: { id, zone } } })),
  answer: (id, zone, answers) => got(api.POST('/visits/{id}/zones/{zone}/answers', { params: { path: { id, zone } }, body: { answers } })),
}
