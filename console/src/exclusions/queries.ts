import { useMutation, useQuery, useQueryCache } from '@pinia/colada'
import { answered, api } from '../api/client'

export function useExclusions() {
  return useQuery({
    key: ['exclusions'],
    query: ({ signal }) => answered(api.GET('/api/exclusions', { signal })),
  })
}

/** After a change of a rule, what it may touch is asked for anew. */
export function useRulesChanged() {
  const cache = useQueryCache()
  return async () => {
    for (const key of ['exclusions', 'summary', 'decisions', 'timeline', 'records', 'record', 'connections'])
      await cache.invalidateQueries({ key: [key] })
  }
}

export function useAddExclusions() {
  const changed = useRulesChanged()
  return useMutation({
    mutation: (body: { text: string; reason: string }) => answered(api.POST('/api/exclusions', { body })),
    onSuccess: changed,
  })
}

export function useRemoveExclusion() {
  const changed = useRulesChanged()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/exclusions/{id}', { params: { path: { id } } })),
    onSuccess: changed,
  })
}
