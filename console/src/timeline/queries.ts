import { useInfiniteQuery, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api } from '../api/client'

/** Records by a part of their name. */
export function useRecords(name: MaybeRefOrGetter<string>, kind: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['records', toValue(name), toValue(kind)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/records', {
          params: { query: { name: toValue(name), kind: toValue(kind), limit: 100 } },
          signal,
        }),
      ),
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

/** The timeline of a record, newest first, a page at a time. */
export function useTimeline(id: MaybeRefOrGetter<string>) {
  return useInfiniteQuery({
    key: () => ['timeline', toValue(id)],
    query: ({ pageParam, signal }) =>
      answered(
        api.GET('/api/records/{id}/timeline', {
          params: { path: { id: toValue(id) }, query: { next: pageParam, limit: 50 } },
          signal,
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.next || null,
    enabled: () => toValue(id) !== '',
  })
}

/** What was found by words, newest first. */
export function useSearch(words: MaybeRefOrGetter<string>) {
  return useInfiniteQuery({
    key: () => ['search', toValue(words)],
    query: ({ pageParam, signal }) =>
      answered(
        api.GET('/api/search', {
          params: { query: { words: toValue(words), next: pageParam, limit: 50 } },
          signal,
        }),
      ),
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
