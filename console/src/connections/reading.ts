import type { Schemas } from '../api/client'

/** How much of a first read was left at a time. */
export interface Left {
  at: number
  left: number
}

/** Of older samples nothing is learnt about how fast it goes now. */
const REMEMBERED_MILLIS = 30_000

export function leftOf(c: Schemas['ConnectionInfo']): number {
  return c.sources.reduce((n, s) => n + s.left, 0)
}

export function seenOf(c: Schemas['ConnectionInfo']): number {
  return c.sources.reduce((n, s) => n + s.seen, 0)
}

/** Whether a first read is under way. */
export function isReading(c: Schemas['ConnectionInfo']): boolean {
  return c.state === 'connecting' || leftOf(c) > 0
}

/** With one sample more, and without what is too old to tell. */
export function remember(samples: readonly Left[], now: Left): Left[] {
  return [...samples.filter((s) => now.at - s.at <= REMEMBERED_MILLIS && s.left >= now.left), now]
}

/** How many seconds it will take at this pace; null as long as nobody can tell. */
export function secondsLeft(samples: readonly Left[]): number | null {
  const first = samples[0]
  const last = samples.at(-1)
  if (!first || !last || last.at - first.at < 1_000 || first.left <= last.left) return null
  return Math.ceil((last.left * (last.at - first.at)) / (first.left - last.left) / 1_000)
}

/** Rounded as people say it. */
export function about(seconds: number): string {
  if (seconds < 10) return 'a few seconds left'
  if (seconds < 90) return `about ${Math.round(seconds / 10) * 10} s left`
  return `about ${Math.round(seconds / 60)} min left`
}
