import { computed, ref, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Column, Kind } from './queries'

const KEY = 'jandrel.columns'
/** What few need to see. */
const USUALLY_HIDDEN = ['key', 'phones', 'currency', 'part_of']

function kept(): Record<string, string[]> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, string[]>
  } catch {
    return {}
  }
}

/** Which columns of a table somebody wants to see; kept in this browser. The name stands first, always. */
export function useShownColumns(kind: MaybeRefOrGetter<Kind>, all: MaybeRefOrGetter<readonly Column[]>) {
  const hidden = ref<string[]>([])
  watch(
    () => toValue(kind),
    (now) => (hidden.value = kept()[now] ?? USUALLY_HIDDEN),
    { immediate: true },
  )
  const columns = computed(() => {
    const shown = toValue(all).filter((c) => c.name === 'name' || !hidden.value.includes(c.name))
    return [...shown.filter((c) => c.name === 'name'), ...shown.filter((c) => c.name !== 'name')]
  })
  function toggle(name: string) {
    hidden.value = hidden.value.includes(name)
      ? hidden.value.filter((h) => h !== name)
      : [...hidden.value, name]
    localStorage.setItem(KEY, JSON.stringify({ ...kept(), [toValue(kind)]: hidden.value }))
  }
  return { columns, hidden, toggle }
}
