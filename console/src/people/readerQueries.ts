import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

/** Logins of PostgreSQL's own, by which reporting programs read. */
export function useReaders() {
  return useQuery({
    key: ['readers'],
    query: ({ signal }) => answered(api.GET('/api/readers', { signal })),
  })
}

export function useReaderSetup() {
  return useQuery({
    key: ['readers', 'setup'],
    query: ({ signal }) => answered(api.GET('/api/readers/setup', { signal })),
  })
}

export function useAddReader() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['NewReader']) => answered(api.POST('/api/readers', { body })),
    onSuccess: () => askAgain('readers'),
  })
}

export function useEndReader() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (login: string) =>
      answered(api.DELETE('/api/readers/{login}', { params: { path: { login } } })),
    onSuccess: () => askAgain('readers'),
  })
}
