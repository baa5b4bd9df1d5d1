import { computed, onBeforeUnmount, onMounted, ref, shallowRef, toValue, type MaybeRefOrGetter } from 'vue'

export interface Shortcut {
  /** One key, one with Ctrl, or two that are typed one after the other, with a blank between. */
  keys: string
  does: string
  run: () => void
  /** Works, and stands in no list. */
  hidden?: boolean
  /** Silent while somebody types, though it has Ctrl: the field has its own. */
  calm?: boolean
}
type Source = MaybeRefOrGetter<readonly Shortcut[]>

/** One list for the handler and the help; single keys are silent while somebody types. */
const sources = shallowRef<readonly Source[]>([])
const active = computed(() => sources.value.flatMap((s) => toValue(s)))
export const helpIsOpen = ref(false)
export const paletteIsOpen = ref(false)

export function useActiveShortcuts() {
  return active
}

/** Shortcuts of one page or part, for as long as it is shown. */
export function useShortcuts(shortcuts: Source): void {
  onMounted(() => {
    sources.value = [...sources.value, shortcuts]
  })
  onBeforeUnmount(() => {
    sources.value = sources.value.filter((s) => s !== shortcuts)
  })
}

export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  )
}

export function keysOf(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
  return (event.altKey ? 'Alt+' : '') + (event.ctrlKey || event.metaKey ? 'Ctrl+' : '') + key
}

/** How long the first of two keys waits for the second. */
const TOGETHER_MILLIS = 1_200
let first = { key: '', at: 0 }

export function handle(event: KeyboardEvent, now = Date.now()): void {
  if (event.defaultPrevented || event.key === 'Shift') return
  const keys = keysOf(event)
  const typing = isTyping(event.target)
  if (typing && !keys.startsWith('Ctrl+') && keys !== 'Escape') return
  const both = now - first.at < TOGETHER_MILLIS ? `${first.key} ${keys}` : ''
  const newest = active.value.filter((s) => !typing || !s.calm).reverse()
  const found = newest.find((s) => s.keys === both) ?? newest.find((s) => s.keys === keys)
  const begins = !found && newest.some((s) => s.keys.startsWith(`${keys} `))
  first = begins ? { key: keys, at: now } : { key: '', at: 0 }
  if (found) {
    event.preventDefault()
    found.run()
  }
}

/** One handler for all of them. */
export function useShortcutKeys(): void {
  const heard = (event: KeyboardEvent) => handle(event)
  onMounted(() => window.addEventListener('keydown', heard))
  onBeforeUnmount(() => window.removeEventListener('keydown', heard))
}
