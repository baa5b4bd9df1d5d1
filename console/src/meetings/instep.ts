import { useMutation, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

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
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (follow: boolean) => {
      const params = { params: { path: { record: toValue(record) } } }
      return answered(
        follow ? api.PUT('/api/followed/{record}', params) : api.DELETE('/api/followed/{record}', params),
      )
    },
    onSuccess: () => askAgain('followed'),
  })
}

export function useSubscribe() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['NewFeed']) => answered(api.POST('/api/feeds', { body })),
    onSuccess: () => askAgain('feeds'),
  })
}

export function useRevoke() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/feeds/{id}', { params: { path: { id } } })),
    onSuccess: () => askAgain('feeds'),
  })
}

/** Counts what would go out, or sends it. */
export function useSendOut() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['SendOut']) => answered(api.POST('/api/meetings/send-out', { body })),
    onSuccess: (sent) => {
      if (sent.applied) void askAgain('in-step')
    },
  })
}

/** What a sync run did, without what it did not do. */
export function broughtBy(run: Schemas['RunCounts'] | null | undefined): string {
  if (!run) return ''
  const names = ['read', 'gone', 'sent', 'received', 'merged', 'refused'] as const
  return names
    .filter((name) => run[name] > 0)
    .map((name) => `${name} ${run[name]}`)
    .join(', ')
}

/** What waits to go out, of each kind. Asked again now and then: what goes out tells no page of it. */
export function useOutbox() {
  return useQuery({
    key: ['in-step', 'outbox'],
    query: ({ signal }) => answered(api.GET('/api/outbox', { signal })),
  })
}
