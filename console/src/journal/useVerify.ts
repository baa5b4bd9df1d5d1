import { useMutation } from '@pinia/colada'
import { computed } from 'vue'
import { answered, api } from '../api/client'
import { many } from '../kernel/times'

/** Whether the journal's chain holds, computed when somebody asks for it. */
export function useVerify() {
  const { mutate, data, error, asyncStatus } = useMutation({
    mutation: () => answered(api.GET('/api/journal/verify')),
  })
  const says = computed(() => {
    const v = data.value
    if (!v) return ''
    return v.broken
      ? `Entry ${v.broken} does not fit: ${v.why}.`
      : `All ${many(v.entries, 'entry', 'entries')} fit; the last hash is ${v.head.slice(0, 16)}…`
  })
  return { mutate, says, broken: computed(() => Boolean(data.value?.broken)), error, asyncStatus }
}
