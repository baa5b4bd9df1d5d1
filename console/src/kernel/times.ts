const DAY_MS = 86_400_000

const parts = { weekday: 'short', day: 'numeric', month: 'short' } as const
const formats = {
  here: new Intl.DateTimeFormat('en-GB', parts),
  hereWithYear: new Intl.DateTimeFormat('en-GB', { ...parts, year: 'numeric' }),
  utc: new Intl.DateTimeFormat('en-GB', { ...parts, timeZone: 'UTC' }),
  utcWithYear: new Intl.DateTimeFormat('en-GB', { ...parts, year: 'numeric', timeZone: 'UTC' }),
}
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** A whole day is filed at midnight UTC and is the same day for everybody. This year's days go without the year. */
export function dayOf(at: string, allDay = false, now = new Date()): string {
  const date = new Date(at)
  const thisYear = (allDay ? date.getUTCFullYear() : date.getFullYear()) === now.getFullYear()
  const format = allDay
    ? thisYear
      ? formats.utc
      : formats.utcWithYear
    : thisYear
      ? formats.here
      : formats.hereWithYear
  return format.format(date)
}

export function clockOf(at: string): string {
  return clock.format(new Date(at))
}

/** The clock in the zone a meeting was made in, where that differs from the reader's. */
export function clockThere(at: string, zone: string): string {
  if (!zone) return ''
  try {
    const there = new Intl.DateTimeFormat('en-GB', {
      hour: '2-digit',
      minute: '2-digit',
      timeZone: zone,
    }).format(new Date(at))
    return there === clockOf(at) ? '' : `${there} in ${zone}`
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
