import { useMutation, useQuery, useQueryCache } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'

/** How calendars stand with what was made or changed here. */
export function useInStep() {
  return useQuery({
    key: ['in-step'],
    query: ({ signal }) => answered(api.GET('/api/in-step', { signal })),
  })
}

export function useConflicts() {
  return useQuery({
    key: ['in-step', 'conflicts'],
    query: ({ signal }) => answered(api.GET('/api/conflicts', { signal })),
  })
}

export function useFeeds() {
  return useQuery({
    key: ['feeds'],
    query: ({ signal }) => answered(api.GET('/api/feeds', { signal })),
  })
}

export function useFollowed() {
  return useQuery({
    key: ['followed'],
    query: ({ signal }) => answered(api.GET('/api/followed', { signal })),
  })
}

export function useFollow(record: MaybeRefOrGetter<string>) {
  const cache = useQueryCache()
  return useMutation({
    mutation: (follow: boolean) => {
      const params = { params: { path: { record: toValue(record) } } }
      return answered(
        follow ? api.PUT('/api/followed/{record}', params) : api.DELETE('/api/followed/{record}', params),
      )
    },
    onSuccess: () => cache.invalidateQueries({ key: ['followed'] }),
  })
}

export function useSubscribe() {
  const cache = useQueryCache()
  return useMutation({
    mutation: (body: Schemas['NewFeed']) => answered(api.POST('/api/feeds', { body })),
    onSuccess: () => cache.invalidateQueries({ key: ['feeds'] }),
  })
}

export function useRevoke() {
  const cache = useQueryCache()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/feeds/{id}', { params: { path: { id } } })),
    onSuccess: () => cache.invalidateQueries({ key: ['feeds'] }),
  })
}

/** Counts what would go out, or sends it. */
export function useSendOut() {
  const cache = useQueryCache()
  return useMutation({
    mutation: (body: Schemas['SendOut']) => answered(api.POST('/api/meetings/send-out', { body })),
    onSuccess: (sent) => {
      if (sent.applied) void cache.invalidateQueries({ key: ['in-step'] })
    },
  })
}

/** What a look did, without what it did not do. */
export function newsOf(news: string): string {
  return news
    .split(', ')
    .filter((part) => !/ 0$/.test(part))
    .join(', ')
}
