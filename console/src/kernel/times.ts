import { computed } from 'vue'
import { screen } from './screen'
import { startOfDay, wall, wallOf, zone } from './wall'

const DAY_MS = 86_400_000

/** English as it is written where dates are: day first, month first. */
const locale = computed(() => (screen.dates === 'month-day' ? 'en-US' : 'en-GB'))

function wallFormat(options: Intl.DateTimeFormatOptions) {
  const made = computed(() => new Intl.DateTimeFormat(locale.value, { ...options, timeZone: 'UTC' }))
  return (onWall: Date) => made.value.format(onWall)
}
const parts = { weekday: 'short', day: 'numeric', month: 'short' } as const
const short = wallFormat(parts)
const shortWithYear = wallFormat({ ...parts, year: 'numeric' })
/** Of moments on the wall: “Monday 4 May 2026”, “4 May 2026”, “May 2026”, “Mon 4”, “Mon”. */
export const longDay = wallFormat({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
export const fullDay = wallFormat({ weekday: 'long', day: 'numeric', month: 'long' })
export const dayMonth = wallFormat({ day: 'numeric', month: 'short' })
export const plainDay = wallFormat({ day: 'numeric', month: 'short', year: 'numeric' })
export const monthName = wallFormat({ month: 'long', year: 'numeric' })
export const columnDay = wallFormat({ weekday: 'short', day: 'numeric' })
export const weekday = wallFormat({ weekday: 'short' })

/** A day on the wall; this year’s days go without the year. */
export function dayOn(onWall: Date, now = wall(Date.now())): string {
  if (screen.dates === 'year-month') return `${weekday(onWall)} ${onWall.toISOString().slice(0, 10)}`
  return (onWall.getUTCFullYear() === now.getUTCFullYear() ? short : shortWithYear)(onWall)
}

/** A whole day is filed at midnight UTC and is the same day for everybody. */
export function dayOf(at: string, allDay = false, now = new Date()): string {
  return dayOn(allDay ? new Date(at) : wall(at), wall(now))
}

/** The day over a list: today, yesterday, or “Tuesday 24 November”. */
export function headingOf(at: string, allDay = false, now = wall(Date.now())): string {
  const day = allDay ? new Date(at) : wall(at)
  const away = Math.round((startOfDay(day).getTime() - startOfDay(now).getTime()) / DAY_MS)
  if (away === 0) return 'Today'
  if (away === -1) return 'Yesterday'
  if (screen.dates === 'year-month') return dayOn(day, now)
  return (day.getUTCFullYear() === now.getUTCFullYear() ? fullDay : longDay)(day)
}

/** A day such as 2026-05-04, as this reader writes it in a field. */
export function dateText(day: string): string {
  const at = wallOf(day)
  if (!at) return ''
  const [year, month, date] = day.split('-')
  if (screen.dates === 'year-month') return day
  return screen.dates === 'month-day' ? `${month}/${date}/${year}` : `${date}/${month}/${year}`
}

/** The day that somebody typed, such as 2026-05-04; empty where nothing was typed, nothing where it is no day. */
export function dayTyped(typed: string, now = wall(Date.now())): string | null {
  const parts = typed
    .trim()
    .split(/[\s./-]+/)
    .filter(Boolean)
  if (!parts.length) return ''
  if (parts.length > 3 || parts.length < 2 || parts.some((p) => !/^\d{1,4}$/.test(p))) return null
  const isYearFirst = screen.dates === 'year-month' || (parts.length === 3 && parts[0]!.length === 4)
  const numbers = parts.map(Number)
  const year = parts.length === 3 ? numbers[isYearFirst ? 0 : 2]! : now.getUTCFullYear()
  const rest = parts.length === 3 ? (isYearFirst ? numbers.slice(1) : numbers.slice(0, 2)) : numbers
  const [month, day] = isYearFirst || screen.dates === 'month-day' ? rest : [rest[1], rest[0]]
  const at = new Date(Date.UTC(year < 100 ? 2000 + year : year, month! - 1, day))
  return at.getUTCMonth() === month! - 1 && at.getUTCDate() === day ? at.toISOString().slice(0, 10) : null
}

/** For a field of dates: the order in which its parts are typed. */
export const dateOrder = computed(
  () => ({ 'day-month': 'dd/mm/yyyy', 'month-day': 'mm/dd/yyyy', 'year-month': 'yyyy-mm-dd' })[screen.dates],
)

/** Minutes since midnight, as this reader’s clock shows them. */
export function clockText(minutes: number): string {
  const hour = Math.floor(minutes / 60) % 24
  const rest = String(minutes % 60).padStart(2, '0')
  if (screen.hours === 24) return `${String(hour).padStart(2, '0')}:${rest}`
  return `${hour % 12 || 12}:${rest} ${hour < 12 ? 'am' : 'pm'}`
}

/** Minutes since midnight, of what somebody typed: 9, 930, 9:30, 21.30, 9:30 pm; nothing where it is no time. */
export function minutesOf(typed: string): number | null {
  const found = /^\s*(\d{1,2})(?:[:.h ]?(\d{2}))?\s*([ap])?\.?(?:m\.?)?\s*$/i.exec(typed)
  if (!found) return null
  const half = found[3]?.toLowerCase()
  let hour = Number(found[1])
  const minute = Number(found[2] ?? 0)
  if (half ? hour < 1 || hour > 12 : hour > 23) return null
  if (half) hour = (hour % 12) + (half === 'p' ? 12 : 0)
  return minute > 59 ? null : hour * 60 + minute
}

export function clockOn(onWall: Date): string {
  return clockText(onWall.getUTCHours() * 60 + onWall.getUTCMinutes())
}

export function clockOf(at: string): string {
  return clockOn(wall(at))
}

/** The clock in the zone a meeting was made in, where that differs from the reader's. */
export function clockThere(at: string, there: string): string {
  if (!there || there === zone()) return ''
  try {
    const clock = clockOn(wall(at, there))
    return clock === clockOf(at) ? '' : `${clock} in ${there}`
  } catch {
    return ''
  }
}

/** How long ago, or how long until, in the largest unit that fits. */
export function distance(at: string, now = Date.now()): string {
  const ms = new Date(at).getTime() - now
  const format = new Intl.RelativeTimeFormat('en-GB', { numeric: 'auto' })
  const size = Math.abs(ms)
  if (size < 60_000) return 'just now'
  if (size < 3_600_000) return format.format(Math.trunc(ms / 60_000), 'minute')
  if (size < DAY_MS) return format.format(Math.trunc(ms / 3_600_000), 'hour')
  return format.format(Math.trunc(ms / DAY_MS), 'day')
}

export function many(n: number, one: string, several = `${one}s`): string {
  return `${n.toLocaleString('en-GB')} ${n === 1 ? one : several}`
}
