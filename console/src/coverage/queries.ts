import { useMutation, useQuery, useQueryCache } from '@pinia/colada'
import { answered, api } from '../api/client'

export function useCoverage() {
  return useQuery({
    key: ['coverage'],
    query: ({ signal }) => answered(api.GET('/api/coverage', { signal })),
  })
}

export function useCoverEnd() {
  const cache = useQueryCache()
  return useMutation({
    mutation: (wanted: { id: string; until: string }) =>
      answered(
        api.PUT('/api/people/{id}/cover', {
          params: { path: { id: wanted.id } },
          body: { until: wanted.until || null },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ key: ['coverage'] }),
  })
}
