import { useInfiniteQuery, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api } from '../api/client'
import { addDays, dateOf, instant, wall, wallOf, zone } from '../kernel/wall'

/** What the list is narrowed to; empty members do not narrow. Days are whole days in the reader's zone. */
export interface Narrowed {
  verdict: string
  kind: string
  rule: string
  person: string
  policy: string
  address: string
  exclusion: string
  from: string
  until: string
}

export const everything: Narrowed = {
  verdict: '',
  kind: '',
  rule: '',
  person: '',
  policy: '',
  address: '',
  exclusion: '',
  from: '',
  until: '',
}

/** The reader's day, as a date field writes it. */
export function today(now = new Date()): string {
  return dateOf(wall(now))
}

function startOf(day: string, daysLater = 0): string | undefined {
  const at = wallOf(day)
  return at ? instant(addDays(at, daysLater)).toISOString() : undefined
}

export function useDecisions(narrowed: MaybeRefOrGetter<Narrowed>) {
  return useInfiniteQuery({
    key: () => ['decisions', { ...toValue(narrowed) }, zone()],
    query: ({ pageParam, signal }) => {
      const n = toValue(narrowed)
      return answered(
        api.GET('/api/decisions', {
          params: {
            query: {
              verdict: n.verdict || undefined,
              kind: n.kind || undefined,
              rule: n.rule || undefined,
              person: n.person || undefined,
              policy: n.policy || undefined,
              address: n.address || undefined,
              exclusion: n.exclusion || undefined,
              from: startOf(n.from),
              until: startOf(n.until, 1),
              next: pageParam,
              limit: 100,
            },
          },
          signal,
        }),
      )
    },
    initialPageParam: '',
    // what was found stays until the next is there: a list must not flicker under who clicks
    placeholderData: (before) => before,
    getNextPageParam: (last) => last.next || null,
  })
}

export function useSummary() {
  return useQuery({
    key: ['summary'],
    query: ({ signal }) => answered(api.GET('/api/summary', { signal })),
    staleTime: 2_000,
  })
}

/** What was decided under each policy that is on. */
export function useByPolicy() {
  return useQuery({
    key: ['summary', 'policies'],
    query: ({ signal }) => answered(api.GET('/api/decisions/policies', { signal })),
  })
}

/** The last few of somebody's that came to this; what is still to come is not the last. */
export function useLast(person: MaybeRefOrGetter<string | null | undefined>, verdict: string) {
  return useQuery({
    key: () => ['decisions', 'last', verdict, toValue(person) ?? ''],
    query: ({ signal }) =>
      answered(
        api.GET('/api/decisions', {
          params: {
            query: {
              person: toValue(person) ?? undefined,
              verdict,
              until: new Date().toISOString(),
              limit: 5,
            },
          },
          signal,
        }),
      ),
    enabled: () => !!toValue(person),
  })
}

/** One that is not in a list, such as by a link. */
export function useDecision(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['decisions', 'one', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/decisions/{id}', { params: { path: { id: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}
