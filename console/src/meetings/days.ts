import type { Schemas } from '../api/client'

export type Meeting = Schemas['MeetingInfo']
export type View = 'day' | 'week' | 'month' | 'agenda' | 'free'

/** Meetings are dragged and drawn in steps of this many minutes. */
export const STEP = 15

export function startOfDay(at: Date): Date {
  return new Date(at.getFullYear(), at.getMonth(), at.getDate())
}

/** Days are added on the wall: one that the clock cuts or stretches is still one day. */
export function addDays(at: Date, days: number): Date {
  return new Date(at.getFullYear(), at.getMonth(), at.getDate() + days, at.getHours(), at.getMinutes())
}

/** Weeks begin on Monday. */
export function startOfWeek(at: Date): Date {
  return addDays(startOfDay(at), -((at.getDay() + 6) % 7))
}

/** The days that a view shows of the time around a day. */
export function daysOf(view: View, around: Date): Date[] {
  const first =
    view === 'day' || view === 'free'
      ? startOfDay(around)
      : view === 'week'
        ? startOfWeek(around)
        : view === 'agenda'
          ? startOfDay(around)
          : startOfWeek(new Date(around.getFullYear(), around.getMonth(), 1))
  const count = view === 'day' || view === 'free' ? 1 : view === 'week' ? 7 : view === 'agenda' ? 28 : 42
  return Array.from({ length: count }, (_, i) => addDays(first, i))
}

/** One step of the view back or on. */
export function turned(view: View, around: Date, by: number): Date {
  if (view === 'month') return new Date(around.getFullYear(), around.getMonth() + by, 1)
  return addDays(around, by * (view === 'week' ? 7 : view === 'agenda' ? 28 : 1))
}

const day = new Intl.DateTimeFormat('en-GB', {
  weekday: 'long',
  day: 'numeric',
  month: 'long',
  year: 'numeric',
})
const short = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const month = new Intl.DateTimeFormat('en-GB', { month: 'long', year: 'numeric' })

export function titleOf(view: View, around: Date): string {
  if (view === 'month') return month.format(around)
  if (view === 'day' || view === 'free') return day.format(around)
  const days = daysOf(view, around)
  return `${short.format(days[0])} – ${short.format(days[days.length - 1])}`
}

/** Whole days are filed at midnight UTC; all else belongs to the reader's days. */
export function isOn(m: Meeting, at: Date): boolean {
  if (m.allDay) {
    const utc = Date.UTC(at.getFullYear(), at.getMonth(), at.getDate())
    return Date.parse(m.begins) <= utc && utc < Math.max(Date.parse(m.ends), Date.parse(m.begins) + 1)
  }
  const from = startOfDay(at).getTime()
  const until = addDays(startOfDay(at), 1).getTime()
  const begins = Date.parse(m.begins)
  return begins < until && (Date.parse(m.ends) > from || begins >= from)
}

export interface Placed {
  meeting: Meeting
  /** Minutes on the wall since midnight. */
  top: number
  height: number
  column: number
  columns: number
}

const SHORTEST = 24

/** Side by side what overlaps, each as wide as its neighbours allow. */
export function placed(meetings: readonly Meeting[], at: Date): Placed[] {
  const midnight = startOfDay(at)
  const end = addDays(midnight, 1).getTime()
  const wall = (ms: number) => {
    if (ms >= end) return 1440
    const d = new Date(Math.max(ms, midnight.getTime()))
    return d.getHours() * 60 + d.getMinutes()
  }
  const all: Placed[] = meetings
    .filter((m) => !m.allDay && isOn(m, at))
    .map((meeting) => {
      const top = wall(Date.parse(meeting.begins))
      const height = Math.max(SHORTEST, wall(Date.parse(meeting.ends)) - top)
      return { meeting, top: Math.min(top, 1440 - SHORTEST), height, column: 0, columns: 1 }
    })
    .sort((a, b) => a.top - b.top || b.height - a.height)
  let cluster: Placed[] = []
  let reaches = 0
  const close = () => {
    const columns = Math.max(1, ...cluster.map((p) => p.column + 1))
    cluster.forEach((p) => (p.columns = columns))
    cluster = []
  }
  for (const p of all) {
    if (cluster.length && p.top >= reaches) close()
    const taken = new Set(cluster.filter((o) => o.top + o.height > p.top).map((o) => o.column))
    while (taken.has(p.column)) p.column++
    cluster.push(p)
    reaches = Math.max(cluster.length === 1 ? 0 : reaches, p.top + p.height)
  }
  close()
  return all
}

/** The instant of so many minutes on the wall of a day. */
export function wallTime(at: Date, minutes: number): Date {
  return new Date(at.getFullYear(), at.getMonth(), at.getDate(), 0, Math.round(minutes / STEP) * STEP)
}

/**
 * Where a meeting begins that was dragged, by whichever of its days: as far as it was dragged. Sideways it keeps its minutes, up and down
 * it goes in steps.
 */
export function movedBy(begins: Date, days: number, minutes: number): Date {
  const at = addDays(begins, days)
  return minutes === 0 ? at : wallTime(at, at.getHours() * 60 + at.getMinutes() + minutes)
}

/** For an input of the kind datetime-local. */
export function forInput(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`
}

/** Such as 2026-05-04. */
export function dateOf(at: Date): string {
  return forInput(at).slice(0, 10)
}

export function nameOf(m: Meeting): string {
  return m.visibility === 'full' ? m.title || '(no title)' : 'Busy'
}
