import { onBeforeUnmount, watch, type Ref } from 'vue'
import type { Notice } from './queries'

/** What nobody tells of, such as a meeting that somebody else's calendar brought, is found by asking now and then. */
const LONGEST_MILLIS = 60_000
/** The service's clock may be behind this computer's. */
const SHORTEST_MILLIS = 3_000

/** How long until what comes next is there. */
export function waitFor(next: string | null | undefined, now = Date.now()): number {
  if (!next) return LONGEST_MILLIS
  return Math.min(LONGEST_MILLIS, Math.max(SHORTEST_MILLIS, Date.parse(next) - now + 500))
}

/** Asks again when the next one comes, and once a minute. */
export function useNext(next: Ref<string | null | undefined>, ask: () => void): void {
  let timer: ReturnType<typeof setTimeout> | undefined
  function wait() {
    clearTimeout(timer)
    timer = setTimeout(() => {
      ask()
      wait()
    }, waitFor(next.value))
  }
  watch(next, wait, { immediate: true })
  onBeforeUnmount(() => clearTimeout(timer))
}

/** Whether this browser may be asked to tell of what rings, tells of it, or was told not to. */
export function permission(): 'granted' | 'denied' | 'default' | 'none' {
  return typeof Notification === 'undefined' ? 'none' : Notification.permission
}

/** The ones that did not ring here before; all that ring are remembered, those that do not any more are forgotten. */
export function newlyRinging(notices: readonly Notice[], rang: Set<string>): Notice[] {
  const now = notices.filter((n) => n.rings)
  const fresh = now.filter((n) => !rang.has(n.key))
  rang.clear()
  now.forEach((n) => rang.add(n.key))
  return fresh
}

/** By the browser's own notification (Notifications API), which is seen over other windows; several tabs show the same one. */
export function notify(notice: Notice, says: string, opened: () => void): void {
  if (permission() !== 'granted') return
  try {
    const shown = new Notification(notice.title, { body: says, tag: notice.key })
    shown.onclick = () => {
      window.focus()
      opened()
      shown.close()
    }
  } catch {
    // some phones let only service workers do this; it rings on the page
  }
}
