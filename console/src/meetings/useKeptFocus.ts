import { nextTick, watch, type Ref } from 'vue'

/**
 * Who moves a meeting by keyboard stays on it: drawn into another day, it is another element, and the keyboard would be nowhere.
 * Meetings are told by `data-meeting`.
 */
export function useKeptFocus(within: Ref<HTMLElement | null>, changes: () => unknown) {
  // before it is drawn anew
  watch(changes, async () => {
    const held = document.activeElement
    const id = held instanceof HTMLElement && within.value?.contains(held) ? held.dataset.meeting : undefined
    if (!id) return
    await nextTick()
    if (held?.isConnected) return
    within.value?.querySelector<HTMLElement>(`[data-meeting="${CSS.escape(id)}"]`)?.focus()
  })
}
