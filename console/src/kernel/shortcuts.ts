import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

export interface Shortcut {
  /** One key, one with Ctrl, or two that are typed one after the other, with a blank between. */
  keys: string
  does: string
  run: () => void
  /** Works, and stands in no list. */
  hidden?: boolean
}

/** One list for the handler and the help; single keys are silent while somebody types. */
const active = shallowRef<readonly Shortcut[]>([])
export const helpIsOpen = ref(false)
export const paletteIsOpen = ref(false)

export function useActiveShortcuts() {
  return active
}

/** Shortcuts of one page or part, for as long as it is shown. */
export function useShortcuts(shortcuts: Shortcut[]): void {
  onMounted(() => {
    active.value = [...active.value, ...shortcuts]
  })
  onBeforeUnmount(() => {
    active.value = active.value.filter((s) => !shortcuts.includes(s))
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
  const free = !isTyping(event.target) || keys.startsWith('Ctrl+') || keys === 'Escape'
  if (!free) return
  const both = now - first.at < TOGETHER_MILLIS ? `${first.key} ${keys}` : ''
  const newest = [...active.value].reverse()
  const found = newest.find((s) => s.keys === both) ?? newest.find((s) => s.keys === keys)
  const begins = !found && newest.some((s) => s.keys.startsWith(`${keys} `))
  first = begins ? { key: keys, at: now } : { key: '', at: 0 }
  if (found) {
    event.preventDefault()
    found.run()
  }
}

/** The pages by two keys each, the palette and the help. */
export function usePageShortcuts(pages: () => readonly { name: string; path: string; keys: string }[]): void {
  const router = useRouter()
  const jumps = () =>
    pages().map((p) => ({ keys: p.keys, does: p.name, run: () => void router.push(p.path) }))
  useShortcuts([
    ...jumps(),
    {
      keys: 'Ctrl+k',
      does: 'Find a page, record or action',
      run: () => (paletteIsOpen.value = true),
      hidden: true,
    },
    { keys: '?', does: 'Keyboard shortcuts', run: () => (helpIsOpen.value = !helpIsOpen.value) },
  ])
  const heard = (event: KeyboardEvent) => handle(event)
  onMounted(() => window.addEventListener('keydown', heard))
  onBeforeUnmount(() => window.removeEventListener('keydown', heard))
}
