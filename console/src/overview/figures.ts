import type { DayCounts } from './queries'

export const VERDICTS = ['logged', 'waiting', 'leftOut'] as const
export type Plotted = (typeof VERDICTS)[number]
export const WORDS: Record<Plotted, string> = { logged: 'logged', waiting: 'waiting', leftOut: 'left out' }

/** The last days, and as many before them. */
export function halves(days: readonly DayCounts[]): { before: DayCounts[]; last: DayCounts[] } {
  const half = Math.floor(days.length / 2)
  return { before: days.slice(0, half), last: days.slice(half) }
}

export function sum(days: readonly DayCounts[], of: 'logged' | 'waiting' | 'leftOut' | 'unreadable'): number {
  return days.reduce((n, day) => n + day[of], 0)
}

/** How a number compares with the one before it, in words. */
export function compared(now: number, before: number, span: string): string {
  const by = now - before
  if (by === 0) return `as many as in the ${span} before`
  const n = Math.abs(by).toLocaleString('en-GB')
  return `${n} ${by > 0 ? 'more' : 'fewer'} than in the ${span} before`
}
