import { useMutation, useQuery, useQueryCache } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export type Notice = Schemas['NoticeInfo']
export type Choice = Schemas['NoticeChoiceInfo']
type Page = Schemas['NoticePage']

const KEY = ['notices', 'all']

/** What concerns the person who is signed in. */
export function useNotices() {
  return useQuery({
    key: KEY,
    query: ({ signal }) => answered(api.GET('/api/notices', { signal })),
    placeholderData: (before: Page | undefined) => before,
  })
}

/** Shown at once; what the service makes of it is asked for afterwards. */
function useMark<T>(tells: (body: T) => Promise<unknown>, becomes: (notice: Notice, body: T) => Notice) {
  const cache = useQueryCache()
  const askAgain = useAskAgain()
  return useMutation({
    mutation: tells,
    onMutate: (body) => {
      const now = cache.getQueryData<Page>(KEY)
      if (!now) return
      const notices = now.notices.map((n) => becomes(n, body))
      const unread = notices.filter((n) => !n.read && !n.snoozedUntil).length
      cache.setQueryData(KEY, { ...now, notices, unread })
    },
    onSettled: () => askAgain('notices'),
  })
}

export function useRead() {
  return useMark(
    (body: Schemas['NoticeMarks']) => answered(api.POST('/api/notices/read', { body })),
    (n, { keys, read }) => (keys.includes(n.key) ? { ...n, read, rings: false, snoozedUntil: undefined } : n),
  )
}

export function useSnooze() {
  return useMark(
    (body: Schemas['NoticeSnooze']) => answered(api.POST('/api/notices/snooze', { body })),
    (n, { key, minutes }) =>
      n.key === key
        ? {
            ...n,
            read: false,
            rings: false,
            snoozedUntil: new Date(Date.now() + minutes * 60_000).toISOString(),
          }
        : n,
  )
}

export function useChoice(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['notices', 'choice'],
    query: ({ signal }) => answered(api.GET('/api/notices/choice', { signal })),
    enabled: () => toValue(enabled),
  })
}

export function useChoose() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Choice) => answered(api.PUT('/api/notices/choice', { body })),
    onSuccess: () => askAgain('notices'),
  })
}
