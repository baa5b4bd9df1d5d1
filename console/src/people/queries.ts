import { useQuery } from '@pinia/colada'
import { answered, api } from '../api/client'

export function usePeople() {
  return useQuery({
    key: ['people'],
    query: ({ signal }) => answered(api.GET('/api/people', { signal })),
    staleTime: 60_000,
  })
}
