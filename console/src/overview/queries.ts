import { useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { zone } from '../kernel/wall'

export type DayCounts = Schemas['DayCounts']

/** Decisions of each verdict by day, up to today, in the reader's zone. */
export const SPAN = 30

export function useDays(days = 2 * SPAN) {
  return useQuery({
    key: () => ['summary', 'days', days, zone()],
    query: ({ signal }) =>
      answered(api.GET('/api/decisions/days', { params: { query: { days, zone: zone() } }, signal })),
  })
}

/** How long mail took to its timeline. */
export function useLateness(days = SPAN) {
  return useQuery({
    key: ['summary', 'lateness', days],
    query: ({ signal }) => answered(api.GET('/api/lateness', { params: { query: { days } }, signal })),
  })
}

/** Accounts by their last touch. */
export function useTouches() {
  return useQuery({
    key: ['summary', 'touches'],
    query: ({ signal }) => answered(api.GET('/api/records/touches', { signal })),
  })
}

/** Meetings held and missed, by person and week. */
export function useOutcomes(weeks: number) {
  return useQuery({
    key: () => ['summary', 'outcomes', weeks, zone()],
    query: ({ signal }) =>
      answered(api.GET('/api/calendar/outcomes', { params: { query: { weeks, zone: zone() } }, signal })),
  })
}

/** The last thing on a record's timeline. */
export function useLast(record: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['timeline', toValue(record), 'last'],
    query: ({ signal }) =>
      answered(
        api.GET('/api/records/{id}/timeline', {
          params: { path: { id: toValue(record) }, query: { past: true, limit: 1 } },
          signal,
        }),
      ),
    enabled: () => toValue(record) !== '',
  })
}

/** The newest entries of the journal that people made; of one kind of things, or of all. */
export function useLatestChanges(kind = '') {
  return useQuery({
    key: ['journal', 'latest', kind],
    query: ({ signal }) =>
      answered(
        api.GET('/api/journal', {
          params: { query: { limit: 8, byPeople: true, ...(kind && { kind }) } },
          signal,
        }),
      ),
  })
}

export function useBackground(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['summary', 'background'],
    query: ({ signal }) => answered(api.GET('/api/background', { signal })),
    enabled: () => toValue(enabled),
  })
}
