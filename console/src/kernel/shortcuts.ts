import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

export interface Shortcut {
  keys: string
  does: string
  run: () => void
}

/** One list for the handler and the help; single keys are silent while somebody types. */
const active = shallowRef<readonly Shortcut[]>([])
export const helpIsOpen = ref(false)

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

export function handle(event: KeyboardEvent): void {
  if (event.defaultPrevented || (isTyping(event.target) && !event.altKey && event.key !== 'Escape')) return
  const keys = keysOf(event)
  const found = [...active.value].reverse().find((s) => s.keys === keys)
  if (found) {
    event.preventDefault()
    found.run()
  }
}

/** The pages by number, and the help. */
export function usePageShortcuts(pages: { name: string; path: string }[]): void {
  const router = useRouter()
  useShortcuts([
    ...pages.map((p, i) => ({ keys: `Alt+${i + 1}`, does: p.name, run: () => void router.push(p.path) })),
    { keys: '?', does: 'This list', run: () => (helpIsOpen.value = !helpIsOpen.value) },
  ])
  onMounted(() => window.addEventListener('keydown', handle))
  onBeforeUnmount(() => window.removeEventListener('keydown', handle))
}
