/** Where the view stands: on a visit, or on a zone without one. */
export interface Place {
  visit?: string
  zone: string
}
