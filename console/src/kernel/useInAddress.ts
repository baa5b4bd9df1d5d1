import { watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * Keeps what a list is narrowed to in the address, so that reload, back and a link that is sent to somebody show the same. What has its
 * usual value stands in no address.
 *
 * @param narrowed reactive; filled from the address at once
 */
export function useInAddress<T extends { [K in keyof T]: string }>(narrowed: T): void {
  const route = useRoute()
  const router = useRouter()
  const usual = { ...narrowed }
  const names = Object.keys(usual) as (keyof T & string)[]
  const path = route.path

  function read() {
    for (const name of names) {
      const there = route.query[name]
      const value = typeof there === 'string' ? there : usual[name]
      if (narrowed[name] !== value) (narrowed as Record<string, string>)[name] = value
    }
  }
  read()
  watch(
    () => route.query,
    () => {
      if (route.path === path) read()
    },
  )
  watch(
    () => names.map((name) => narrowed[name]),
    () => {
      if (route.path !== path) return
      const query = { ...route.query }
      for (const name of names) {
        if (narrowed[name] === usual[name]) delete query[name]
        else query[name] = narrowed[name]
      }
      if (JSON.stringify(query) !== JSON.stringify(route.query)) void router.replace({ query })
    },
  )
}
