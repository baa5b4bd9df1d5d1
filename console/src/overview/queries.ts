import { useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { zone } from '../kernel/wall'
import { useStrangers } from '../triage/queries'

export type DayCounts = Schemas['DayCounts']

/** What is counted over everything is not counted anew with each message. */
const FRESH_MILLIS = 60_000

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
    key: ['overview', 'touches'],
    staleTime: FRESH_MILLIS,
    query: ({ signal }) => answered(api.GET('/api/records/touches', { signal })),
  })
}

/** Meetings held and missed, by person and week. */
export function useOutcomes(weeks: number) {
  return useQuery({
    key: () => ['overview', 'outcomes', weeks, zone()],
    staleTime: FRESH_MILLIS,
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

/** The best of those who match no record. */
export const useBest = () => useStrangers('', 5)

export function useBackground(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['summary', 'background'],
    query: ({ signal }) => answered(api.GET('/api/background', { signal })),
    enabled: () => toValue(enabled),
  })
}

/** What an installation has, but for what the overview asks for anyway. */
export function useSetUp(wanted: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['set-up'],
    enabled: () => toValue(wanted),
    query: async ({ signal }) => {
      const [company, servers, policies, signIns] = await Promise.all([
        answered(api.GET('/api/company', { signal })),
        answered(api.GET('/api/servers', { signal })),
        answered(api.GET('/api/policies', { signal })),
        answered(api.GET('/api/sign-ins', { signal })),
      ])
      return {
        domains: company.own.length,
        servers: servers.length,
        policies: policies.filter((p) => p.enabled && !p.archived).map((p) => p.rules.name),
        signIns: signIns.length,
      }
    },
  })
}
