import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** What stands open beside a list, in the address: reload, back and a link that is sent to somebody show the same. */
export function useOpened() {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => String(route.query.open ?? ''),
    set: (id: string) => {
      const was = route.query.open
      if ((was ?? '') === id) return
      const rest = { ...route.query }
      delete rest.open
      const to = { path: route.path, query: id ? { ...rest, open: id } : rest }
      // back closes what was opened; walking from one to the next is one step
      void (id && !was ? router.push(to) : router.replace(to))
    },
  })
}
