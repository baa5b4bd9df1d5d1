import { addDays, dateOf } from '../kernel/wall'
import { monthName } from '../kernel/times'

/** A bar of the strip: so many weeks from a Monday on. */
export interface Bar {
  begins: Date
  /** The last day of it, such as 2026-05-10. */
  last: string
  mail: number
  meetings: number
  ahead: boolean
}

const MOST_BARS = 80

/**
 * The weeks of a timeline without gaps, the earliest first; several weeks a bar where there are more than fit.
 *
 * @param now on the wall
 */
export function barsOf(
  weeks: readonly { begins: string; mail: number; meetings: number }[],
  now: Date,
): { bars: Bar[]; most: number } {
  const first = weeks[0]
  const last = weeks[weeks.length - 1]
  if (!first || !last) return { bars: [], most: 0 }
  const start = new Date(first.begins)
  const count = Math.round((Date.parse(last.begins) - start.getTime()) / (7 * 86_400_000)) + 1
  const each = Math.ceil(count / MOST_BARS)
  const bars: Bar[] = Array.from({ length: Math.ceil(count / each) }, (_, i) => {
    const begins = addDays(start, i * each * 7)
    return {
      begins,
      last: dateOf(addDays(begins, each * 7 - 1)),
      mail: 0,
      meetings: 0,
      ahead: begins.getTime() > now.getTime(),
    }
  })
  for (const week of weeks) {
    const at = Math.floor((Date.parse(week.begins) - start.getTime()) / (each * 7 * 86_400_000))
    const bar = bars[at]
    if (!bar) continue
    bar.mail += week.mail
    bar.meetings += week.meetings
  }
  return { bars, most: Math.max(...bars.map((b) => b.mail + b.meetings)) }
}

/** Names of months where they begin, not closer than some bars to each other. */
export function monthsOf(bars: readonly Bar[], apart = 8): { at: number; name: string }[] {
  const names: { at: number; name: string }[] = []
  bars.forEach((bar, i) => {
    const before = bars[i - 1]
    const begins = !before || before.begins.getUTCMonth() !== bar.begins.getUTCMonth()
    const room = names.length === 0 || i - names[names.length - 1]!.at >= apart
    if (begins && room) names.push({ at: i, name: monthName(bar.begins) })
  })
  return names
}
