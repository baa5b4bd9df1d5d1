import { useMutation, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useRulesChanged } from './exclusionQueries'
import { useAskAgain } from '../kernel/askAgain'

export function usePolicies() {
  return useQuery({
    key: ['policies'],
    query: ({ signal }) => answered(api.GET('/api/policies', { signal })),
  })
}

export function useVersions(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['policies', toValue(id), 'versions'],
    query: ({ signal }) =>
      answered(api.GET('/api/policies/{id}/versions', { params: { path: { id: toValue(id) } }, signal })),
    enabled: () => toValue(id) !== '',
  })
}

/** Whatever is done to policies: the lists that show them are asked for anew. */
export function usePolicyAct() {
  const askAgain = useAskAgain()
  const rules = useRulesChanged()
  return useMutation({
    mutation: (act: () => Promise<unknown>) => act(),
    onSuccess: async () => {
      await askAgain('policies', 'coverage')
      await rules()
    },
  })
}

export const acts = {
  on: (id: string) => answered(api.POST('/api/policies/{id}/on', { params: { path: { id } } })),
  off: (id: string) => answered(api.POST('/api/policies/{id}/off', { params: { path: { id } } })),
  archive: (id: string) => answered(api.POST('/api/policies/{id}/archive', { params: { path: { id } } })),
  restore: (id: string) => answered(api.POST('/api/policies/{id}/restore', { params: { path: { id } } })),
  duplicate: (id: string) => answered(api.POST('/api/policies/{id}/duplicate', { params: { path: { id } } })),
  back: (id: string, version: number) =>
    answered(api.POST('/api/policies/{id}/versions/{version}/back', { params: { path: { id, version } } })),
  order: (ids: string[]) => answered(api.PUT('/api/policies/order', { body: { ids } })),
  change: (id: string, version: number, rules: Schemas['PolicyRules']) =>
    answered(api.PUT('/api/policies/{id}', { params: { path: { id } }, body: { version, rules } })),
}
