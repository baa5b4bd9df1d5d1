import { useInfiniteQuery, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter, type Ref } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { addDays, instant, wallOf, zone } from '../kernel/wall'

export type Activity = Schemas['ActivityInfo']
export type Mark = Schemas['MarkInfo']

/** Activities that come in page by page; those that were found say where the words stand. */
export interface Asked {
  data: Ref<
    { pages: { activities: (Activity & { inSubject?: Mark[]; inSnippet?: Mark[] })[] }[] } | undefined
  >
  error: Ref<Error | null>
  asyncStatus: Ref<string>
  isPlaceholderData: Ref<boolean>
  hasNextPage: Ref<boolean>
  loadNextPage: () => Promise<unknown>
  refetch: () => Promise<unknown>
}

export interface RecordsWanted {
  name: string
  kind: string
  owner: string
  sort: string
  /** day, week, month, quarter, longer or never; empty for any. */
  touch: string
  /** 'none' for those without a meeting ahead. */
  next: string
}

/** Records by a part of their name, kind and owner. */
export function useRecords(wanted: MaybeRefOrGetter<RecordsWanted>) {
  return useQuery({
    key: () => ['records', { ...toValue(wanted) }],
    query: ({ signal }) => {
      const { name, kind, owner, sort, touch, next } = toValue(wanted)
      return answered(
        api.GET('/api/records', {
          params: {
            query: {
              name,
              kind,
              sort,
              limit: 100,
              ...(owner && { owner }),
              ...(touch && { touch }),
              ...(next === 'none' && { nothingNext: true }),
            },
          },
          signal,
        }),
      )
    },
    // what was found stays until the next is there: a list must not flicker under who clicks
    placeholderData: (before) => before,
  })
}

/** A few records for a list that offers them, while it is open and something is typed. */
export function useRecordsFor(
  name: MaybeRefOrGetter<string>,
  limit: number,
  enabled: MaybeRefOrGetter<boolean> = true,
  kind: MaybeRefOrGetter<string> = '',
) {
  return useQuery({
    key: () => ['records', 'few', limit, toValue(name).trim(), toValue(kind)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/records', {
          params: { query: { name: toValue(name).trim(), kind: toValue(kind), limit } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    enabled: () => toValue(enabled) && toValue(name).trim() !== '',
  })
}

export function useRecord(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['record', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/records/{id}', { params: { path: { id: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}

/** What of a timeline is wanted; all of it stands in the address. Empty values do not filter. */
export interface TimelineWanted {
  kind: string
  direction: string
  person: string
  who: string
  attached: string
  evidence: string
  /** Days such as 2026-05-04. */
  from: string
  until: string
  /** Whether each message stands for itself. */
  flat: string
}

export const everything: TimelineWanted = {
  kind: '',
  direction: '',
  person: '',
  who: '',
  attached: '',
  evidence: '',
  from: '',
  until: '',
  flat: '',
}

function asked(wanted: TimelineWanted) {
  const from = wallOf(wanted.from)
  const until = wallOf(wanted.until)
  return {
    ...(wanted.kind && { kind: wanted.kind }),
    ...(wanted.direction && { direction: wanted.direction }),
    ...(wanted.person && { person: wanted.person }),
    ...(wanted.who.trim() && { who: wanted.who.trim() }),
    ...(wanted.attached && { attached: true }),
    ...(wanted.evidence && { evidence: wanted.evidence }),
    ...(from && { from: instant(from).toISOString() }),
    ...(until && { until: instant(addDays(until, 1)).toISOString() }),
  }
}

/** What was on a record's timeline, newest first, a page at a time. */
export function useTimeline(id: MaybeRefOrGetter<string>, wanted: MaybeRefOrGetter<TimelineWanted>) {
  return useInfiniteQuery({
    key: () => ['timeline', toValue(id), 'past', { ...toValue(wanted) }, zone()],
    query: ({ pageParam, signal }) =>
      answered(
        api.GET('/api/records/{id}/timeline', {
          params: {
            path: { id: toValue(id) },
            query: {
              ...asked(toValue(wanted)),
              past: true,
              fold: !toValue(wanted).flat,
              next: pageParam,
              limit: 50,
            },
          },
          signal,
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.next || null,
    enabled: () => toValue(id) !== '',
    placeholderData: (before) => before,
  })
}

/** How much of what lies ahead is shown at first. */
export const FEW_PLANNED = 3

/** What lies ahead on it, the nearest first. */
export function usePlanned(
  id: MaybeRefOrGetter<string>,
  wanted: MaybeRefOrGetter<TimelineWanted>,
  limit: MaybeRefOrGetter<number>,
) {
  return useQuery({
    key: () => ['timeline', toValue(id), 'planned', toValue(limit), { ...toValue(wanted) }, zone()],
    query: ({ signal }) =>
      answered(
        api.GET('/api/records/{id}/planned', {
          params: {
            path: { id: toValue(id) },
            query: { ...asked(toValue(wanted)), limit: toValue(limit) },
          },
          signal,
        }),
      ),
    placeholderData: (before) => before,
  })
}

/** How much is on it in each week. */
export function useWeeks(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['timeline', toValue(id), 'weeks'],
    query: ({ signal }) =>
      answered(api.GET('/api/records/{id}/weeks', { params: { path: { id: toValue(id) } }, signal })),
  })
}

/** What was found, with where in it the words stand. */
export function useSearch(words: MaybeRefOrGetter<string>, sort: MaybeRefOrGetter<string>) {
  return useInfiniteQuery({
    key: () => ['search', toValue(words), toValue(sort), zone()],
    query: async ({ pageParam, signal }) => {
      const page = await answered(
        api.GET('/api/search', {
          params: {
            query: { words: toValue(words), sort: toValue(sort), zone: zone(), next: pageParam, limit: 50 },
          },
          signal,
        }),
      )
      return { ...page, activities: page.found.map((f) => ({ ...f, ...f.activity })) }
    },
    initialPageParam: '',
    getNextPageParam: (last) => last.next || null,
    enabled: () => toValue(words).trim() !== '',
    placeholderData: (before) => before,
  })
}

export function useActivity(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['activity', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/activities/{id}', { params: { path: { id: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}

/** What a decision was before it was made again. */
export function useChanges(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['decisions', 'changes', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/decisions/{id}/changes', { params: { path: { id: toValue(id) } }, signal })),
  })
}

/** What a meeting opened or joined by a policy. */
export function useOpening(item: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['item', toValue(item), 'opening'],
    query: ({ signal }) =>
      answered(api.GET('/api/items/{item}/opening', { params: { path: { item: toValue(item) } }, signal })),
  })
}

/** The company's own results of meetings. */
export function useResults() {
  return useQuery({
    key: ['results'],
    query: ({ signal }) => answered(api.GET('/api/results', { signal })),
  })
}
