import { nextTick, ref, type Ref } from 'vue'

/** Moves through the rows of a list by arrow keys: one row is in the tab order, and focus follows the keys. */
export function useList(container: Ref<HTMLElement | null>) {
  const current = ref(0)
  function rows(): HTMLElement[] {
    return [...(container.value?.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
  }
  function move(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key]
    const all = rows()
    if (step === undefined && event.key !== 'Home' && event.key !== 'End') return
    event.preventDefault()
    const to = event.key === 'Home' ? 0 : event.key === 'End' ? all.length - 1 : current.value + (step ?? 0)
    current.value = Math.max(0, Math.min(all.length - 1, to))
    void nextTick(() => rows()[current.value]?.focus())
  }
  return { current, move }
}
