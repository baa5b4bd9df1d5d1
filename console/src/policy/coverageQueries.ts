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

/** Who reads what one's sources bring, from the widest to the narrowest. */
export const SHARED = [
  { value: 'everyone', title: 'everyone in the company' },
  { value: 'team', title: 'your team' },
  { value: 'those-on-it', title: 'those who are on it' },
  { value: 'owner', title: 'you alone' },
] as const

export function useNarrow() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: ({ person, sharing }: { person: string; sharing: string }) =>
      answered(api.PUT('/api/people/{id}/sharing', { params: { path: { id: person } }, body: { sharing } })),
    onSuccess: () => askAgain('coverage'),
  })
}

/** What the company's policy does for oneself, in words. */
export function useOwnPolicy() {
  return useQuery({
    key: ['policies', 'own'],
    query: ({ signal }) => answered(api.GET('/api/own-policy', { signal })),
  })
}
