import { useMutation, useQuery } from '@pinia/colada'
import { answered, api } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export function useCoverage() {
  return useQuery({
    key: ['coverage'],
    query: ({ signal }) => answered(api.GET('/api/coverage', { signal })),
  })
}

export function useCoverEnd() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (wanted: { id: string; until: string }) =>
      answered(
        api.PUT('/api/people/{id}/cover', {
          params: { path: { id: wanted.id } },
          body: { until: wanted.until || null },
        }),
      ),
    onSuccess: () => askAgain('coverage'),
  })
}
