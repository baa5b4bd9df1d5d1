import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export function useExclusions() {
  return useQuery({
    key: ['exclusions'],
    query: ({ signal }) => answered(api.GET('/api/exclusions', { signal })),
  })
}

export function useSuggestions() {
  return useQuery({
    key: ['exclusions', 'suggestions'],
    query: ({ signal }) => answered(api.GET('/api/exclusions/suggestions', { signal })),
  })
}

/** Says of each line whether it can be taken; takes none. */
export function useCheck() {
  return useMutation({
    mutation: (body: Schemas['NewExclusions']) => answered(api.POST('/api/exclusions/check', { body })),
  })
}

/** After a change of a rule, what it may touch is asked for anew. */
export function useRulesChanged() {
  const askAgain = useAskAgain()
  return () => askAgain('exclusions', 'summary', 'decisions', 'timeline', 'records', 'record', 'connections')
}

export function useAddExclusions() {
  const changed = useRulesChanged()
  return useMutation({
    mutation: (given: { body: Schemas['NewExclusions']; mine: boolean }) =>
      answered(
        given.mine
          ? api.POST('/api/exclusions/mine', { body: given.body })
          : api.POST('/api/exclusions', { body: given.body }),
      ),
    onSuccess: changed,
  })
}

/** Takes back what was just added: all of it, or none. */
export function useRemoveAdded() {
  const changed = useRulesChanged()
  return useMutation({
    mutation: async (given: { added: readonly string[]; mine: boolean }) => {
      const all = await answered(api.GET('/api/exclusions'))
      const ids = all
        .filter((e) => given.added.includes(e.what) && !!e.person === given.mine)
        .map((e) => e.id)
      return answered(api.POST('/api/exclusions/removal', { body: { ids } }))
    },
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
