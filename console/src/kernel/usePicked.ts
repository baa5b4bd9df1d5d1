import { computed, type Ref } from 'vue'

/** Which rows of a list are picked, by their ids. */
export function usePicked(picked: Ref<string[]>, shown: () => { id: string }[]) {
  const all = computed({
    get: () => shown().length > 0 && shown().every((row) => picked.value.includes(row.id)),
    set: (on) => (picked.value = on ? shown().map((row) => row.id) : []),
  })
  const some = computed(() => picked.value.length > 0 && !all.value)
  const has = (id: string) => picked.value.includes(id)
  const pick = (id: string, on: boolean) =>
    (picked.value = on ? [...picked.value, id] : picked.value.filter((one) => one !== id))
  return { all, some, has, pick }
}
