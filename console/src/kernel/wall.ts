import { screen } from './screen'

/*
 * Time on the wall: the reader’s day and hour, held in the UTC fields of a Date, in which every day has 24 hours. Grids and fields work
 * with these; an instant is made of one, or one of an instant, only where something comes in or goes out.
 */

const MINUTE = 60_000
const parts = new Map<string, Intl.DateTimeFormat>()

/** The reader’s zone, by its IANA name. */
export function zone(): string {
  return screen.zone || Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
}

function format(of: string): Intl.DateTimeFormat {
  let found = parts.get(of)
  if (!found) {
    found = new Intl.DateTimeFormat('en-GB', {
      timeZone: of,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
      second: 'numeric',
    })
    parts.set(of, found)
  }
  return found
}

/** What the wall shows at an instant. */
export function wall(at: Date | string | number, of = zone()): Date {
  const instant = new Date(at)
  const p = Object.fromEntries(
    format(of)
      .formatToParts(instant)
      .map((x) => [x.type, Number(x.value)]),
  )
  return new Date(Date.UTC(p.year!, p.month! - 1, p.day, p.hour, p.minute, p.second))
}

/** The instant at which the wall shows this; the earlier of two, and where the clock jumps over it, as long after the jump. */
export function instant(onWall: Date, of = zone()): Date {
  const wanted = onWall.getTime()
  const offset = (at: number) => wall(at, of).getTime() - at
  const guess = wanted - offset(wanted - offset(wanted))
  const earlier = wanted - offset(guess - 24 * 60 * MINUTE)
  return new Date(wall(earlier, of).getTime() === wanted ? earlier : guess)
}

export function today(): Date {
  return startOfDay(wall(Date.now()))
}

export function startOfDay(at: Date): Date {
  return new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate()))
}

export function addDays(at: Date, days: number): Date {
  return new Date(at.getTime() + days * 24 * 60 * MINUTE)
}

/** Such as 2026-05-04. */
export function dateOf(at: Date): string {
  return at.toISOString().slice(0, 10)
}

/** Such as 2026-05-04T09:30. */
export function minuteOf(at: Date): string {
  return at.toISOString().slice(0, 16)
}

/** The wall’s moment that a text such as 2026-05-04 or 2026-05-04T09:30 names; nothing where it names none. */
export function wallOf(text: string): Date | null {
  const at = new Date(`${text.length === 10 ? `${text}T00:00` : text}Z`)
  return Number.isNaN(at.getTime()) ? null : at
}
