import { useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'

export type DayCounts = Schemas['DayCounts']

/** Decisions of each verdict by day, up to today, in the reader's zone. */
export function useDays(days: number) {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
  return useQuery({
    key: ['summary', 'days', days],
    query: ({ signal }) =>
      answered(api.GET('/api/decisions/days', { params: { query: { days, zone } }, signal })),
  })
}

/** The newest entries of the journal that people made. */
export function useLatestChanges(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['journal', 'latest'],
    query: ({ signal }) =>
      answered(api.GET('/api/journal', { params: { query: { limit: 8, byPeople: true } }, signal })),
    enabled: () => toValue(enabled),
  })
}

export function useBackground(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['summary', 'background'],
    query: ({ signal }) => answered(api.GET('/api/background', { signal })),
    enabled: () => toValue(enabled),
  })
}
