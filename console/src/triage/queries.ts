import { useMutation, useQuery } from '@pinia/colada'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export type Stranger = Schemas['StrangerInfo']
export type Choice = Schemas['Choice']['choice']

/** Strangers under their domains, best first. */
export function useStrangers(find: MaybeRefOrGetter<string>, limit = 200) {
  return useQuery({
    key: () => ['triage', toValue(find), limit],
    query: ({ signal }) =>
      answered(api.GET('/api/triage', { params: { query: { find: toValue(find), limit } }, signal })),
    placeholderData: (before) => before,
  })
}

/** How many strangers there are. */
export function useStrangerCount() {
  const query = useQuery({
    key: ['triage', 'count'],
    query: ({ signal }) => answered(api.GET('/api/triage', { params: { query: { limit: 1 } }, signal })),
    staleTime: 30_000,
  })
  return { data: computed(() => query.data.value?.total) }
}

/** What was done, as the service knows it at this moment. */
export function deedsNow(signal?: AbortSignal) {
  return answered(api.GET('/api/triage/deeds', { ...(signal && { signal }) }))
}

export function useDeeds(enabled: MaybeRefOrGetter<boolean>) {
  return useQuery({
    key: ['triage-deeds'],
    query: ({ signal }) => deedsNow(signal),
    enabled: () => toValue(enabled),
  })
}

/** @param of one of each pair; nothing for all */
export function useTwins(enabled: MaybeRefOrGetter<boolean>, of?: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['triage-twins', toValue(of) ?? ''],
    query: ({ signal }) =>
      answered(api.GET('/api/triage/twins', { params: { query: { of: toValue(of) } }, signal })),
    enabled: () => toValue(enabled),
  })
}

/** Whatever somebody settles moves items: all that shows some is asked for anew. */
function useMoved() {
  const askAgain = useAskAgain()
  const OTHERS = ['triage-deeds', 'triage-twins', 'decisions', 'summary', 'timeline', 'records', 'record']
  /** The next key counts as soon as the list is new; all else follows. */
  const all = async () => {
    await askAgain('triage')
    void askAgain(...OTHERS)
  }
  // items are decided again in the background: what they come to is asked for once more when that is likely done
  return async () => {
    await all()
    for (const millis of [1_500, 5_000]) setTimeout(() => void all(), millis)
  }
}

export function useSettle() {
  const moved = useMoved()
  return useMutation({
    mutation: (body: Schemas['Choice']) => answered(api.POST('/api/triage/settle', { body })),
    onSuccess: moved,
  })
}

export function useUndo() {
  const moved = useMoved()
  return useMutation({
    mutation: (id: string) => answered(api.POST('/api/triage/deeds/{id}/undo', { params: { path: { id } } })),
    onSuccess: moved,
  })
}

export function useTellApart() {
  const moved = useMoved()
  return useMutation({
    mutation: (body: Schemas['TwoPeople']) => answered(api.POST('/api/triage/apart', { body })),
    onSuccess: moved,
  })
}

export function useMerge() {
  const moved = useMoved()
  return useMutation({
    mutation: (body: Schemas['Merge']) => answered(api.POST('/api/triage/merge', { body })),
    onSuccess: moved,
  })
}
