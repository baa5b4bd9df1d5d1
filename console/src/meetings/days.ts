import type { Schemas } from '../api/client'
import { screen } from '../kernel/screen'
import { longDay, monthName, plainDay } from '../kernel/times'
import { addDays, instant, startOfDay, wall } from '../kernel/wall'

export type Meeting = Schemas['MeetingInfo']
export type View = 'day' | 'week' | 'month' | 'agenda' | 'free'

/** Meetings are dragged and drawn in steps of this many minutes. */
export const STEP = 15

/*
 * All of it is about time on the wall (see kernel/wall.ts); only meetings have instants.
 */

/** Weeks begin on the day that the reader prefers. */
export function startOfWeek(at: Date): Date {
  return addDays(startOfDay(at), -((at.getUTCDay() + 7 - screen.firstDay) % 7))
}

function monthOf(at: Date, by = 0): Date {
  return new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + by, 1))
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
          : startOfWeek(monthOf(around))
  const count = view === 'day' || view === 'free' ? 1 : view === 'week' ? 7 : view === 'agenda' ? 28 : 42
  return Array.from({ length: count }, (_, i) => addDays(first, i))
}

/** One step of the view back or on. */
export function turned(view: View, around: Date, by: number): Date {
  if (view === 'month') return monthOf(around, by)
  return addDays(around, by * (view === 'week' ? 7 : view === 'agenda' ? 28 : 1))
}

export function titleOf(view: View, around: Date): string {
  if (view === 'month') return monthName(around)
  if (view === 'day' || view === 'free') return longDay(around)
  const days = daysOf(view, around)
  return `${plainDay(days[0]!)} – ${plainDay(days[days.length - 1]!)}`
}

/** Whole days are filed at midnight UTC, which is their day on every wall; all else belongs to the reader's days. */
export function isOn(m: Meeting, at: Date): boolean {
  const from = startOfDay(at).getTime()
  const until = from + DAY
  if (m.allDay)
    return Date.parse(m.begins) <= from && from < Math.max(Date.parse(m.ends), Date.parse(m.begins) + 1)
  const begins = wall(m.begins).getTime()
  return begins < until && (wall(m.ends).getTime() > from || begins >= from)
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
const DAY = 86_400_000

/** Side by side what overlaps, each as wide as its neighbours allow. */
export function placed(meetings: readonly Meeting[], at: Date): Placed[] {
  const midnight = startOfDay(at).getTime()
  const minutes = (of: string) =>
    Math.floor(Math.min(1440, Math.max(0, (wall(of).getTime() - midnight) / 60_000)))
  const all: Placed[] = meetings
    .filter((m) => !m.allDay && isOn(m, at))
    .map((meeting) => {
      const top = minutes(meeting.begins)
      const height = Math.max(SHORTEST, minutes(meeting.ends) - top)
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

/** So many minutes into a day on the wall, in whole steps. */
export function wallTime(at: Date, minutes: number): Date {
  return new Date(startOfDay(at).getTime() + Math.round(minutes / STEP) * STEP * 60_000)
}

/**
 * When a meeting begins that was dragged, by whichever of its days: as far as it was dragged. Sideways it keeps its minutes, up and down
 * it goes in steps.
 */
export function movedBy(begins: Date, days: number, minutes: number): Date {
  const at = addDays(begins, days)
  return minutes === 0 ? at : wallTime(at, at.getUTCHours() * 60 + at.getUTCMinutes() + minutes)
}

/** The instants between which a view’s days lie. */
export function spanOf(days: readonly Date[]): { from: Date; until: Date } {
  return { from: instant(days[0]!), until: instant(addDays(days[days.length - 1]!, 1)) }
}

export function nameOf(m: Meeting): string {
  return m.visibility === 'full' ? m.title || '(no title)' : 'Busy'
}
