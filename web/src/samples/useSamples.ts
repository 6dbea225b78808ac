import { useQuery } from '@tanstack/react-query'
import { api, got } from '../api/client'

/** The kinds of samples, with what a full bag of each holds. */
export const kinds = [
  { kind: 'soil', label: 'Soil', cores: 14, depth: 90, days: 7, how: '12 to 15 cores, thatch off, mixed' },
  { kind: 'disease', label: 'Disease plug', cores: 1, depth: 100, days: 5, how: 'from the edge of an active patch, before any fungicide' },
  { kind: 'nematode', label: 'Nematodes', cores: 18, depth: 100, days: 10, how: '15 to 20 cores from the margin, kept cool' },
  { kind: 'tissue', label: 'Leaf', cores: 2, depth: 0, days: 7, how: 'clippings, paper bag' },
] as const
export const kindLabel: Record<string, string> = Object.fromEntries(kinds.map((k) => [k.kind, k.label]))

export const useSamples = (query: { zone?: string; open?: boolean }) =>
  useQuery({ queryKey: ['samples', query], queryFn: () => got(api.GET('/samples', { params: { query } })) })
