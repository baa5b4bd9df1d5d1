import { readonly, ref, watch, type Ref } from 'vue'

/** Follows a ref once it has kept still for a while. */
export function refDebounced<T>(source: Ref<T>, millis: number): Readonly<Ref<T>> {
  const settled = ref(source.value) as Ref<T>
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(source, (now) => {
    clearTimeout(timer)
    timer = setTimeout(() => (settled.value = now), millis)
  })
  return readonly(settled) as Readonly<Ref<T>>
}
