import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { answered, api } from '../api/client'

/** Who is signed in. */
export function useMe() {
  const query = useQuery({
    key: ['session'],
    query: ({ signal }) => answered(api.GET('/api/session', { signal })),
    staleTime: 60_000,
  })
  const isAdministrator = computed(() => query.data.value?.role === 'administrator')
  const seesAll = computed(() =>
    ['administrator', 'manager', 'auditor'].includes(query.data.value?.role ?? ''),
  )
  return { ...query, me: query.data, isAdministrator, seesAll }
}
