import type { Schemas } from '../api/client'

type Sheet = Schemas['MeasureSheet']
type Column = Schemas['MeasureColumn']

/** Such as First meetings, of first-meetings. */
export function titleOf(name: string): string {
  const words = name.replaceAll('-', ' ')
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/** Whether it is of what people of ours see, whatever customer that belongs to. */
export function isOfCapture(name: string): boolean {
  return ['capture', 'decided-again', 'coverage'].includes(name)
}

/** A figure as it is read; empty where there is none. */
export function shown(value: number | null | undefined, column: Column): string {
  if (value === null || value === undefined) return ''
  if (column.unit === 'share') return `${Math.round(value * 100)} %`
  const digits = ['days', 'hours', 'meetings'].includes(column.unit) ? 1 : 0
  return value.toLocaleString('en-GB', { minimumFractionDigits: digits, maximumFractionDigits: digits })
}

/**
 * How a figure compares with that of the time before; empty where nothing was there.
 *
 * @param isGood by what it grew
 */
export function compared(
  now: number | null | undefined,
  before: number | null | undefined,
  column: Column,
): string {
  if (now === null || now === undefined || before === null || before === undefined) return ''
  if (shown(now, column) === shown(before, column)) return 'as before'
  return `${shown(before, column)} before`
}

/** What a plot draws side by side or on top of each other, by the theme's colours. */
export interface Drawn {
  column: string
  colour: string
  /** What is alike is told apart by it. */
  opacity?: number
}
export interface Plot {
  bars: readonly Drawn[]
  /** Whether lines of the sheet run from top to bottom. */
  flat: boolean
}
const STACKS: Record<string, readonly Drawn[]> = {
  'first-meetings': [
    { column: 'held', colour: 'logged' },
    { column: 'planned', colour: 'left-out', opacity: 0.45 },
    { column: 'missed', colour: 'error' },
    { column: 'declined', colour: 'waiting' },
    { column: 'cancelled', colour: 'line' },
  ],
  'after-two-meetings': [
    { column: 'won', colour: 'logged' },
    { column: 'agreed', colour: 'logged', opacity: 0.6 },
    { column: 'meeting ahead', colour: 'left-out', opacity: 0.45 },
    { column: 'nothing next', colour: 'waiting' },
    { column: 'lost', colour: 'error' },
  ],
  contact: [
    { column: 'mail in', colour: 'left-out', opacity: 0.45 },
    { column: 'mail out', colour: 'logged', opacity: 0.6 },
    { column: 'meetings held', colour: 'logged' },
    { column: 'meetings missed', colour: 'error' },
  ],
  capture: [
    { column: 'logged', colour: 'logged' },
    { column: 'waiting', colour: 'waiting' },
    { column: 'left out', colour: 'left-out', opacity: 0.45 },
    { column: 'unreadable', colour: 'error' },
  ],
  'decided-again': [
    { column: 'logged now', colour: 'logged' },
    { column: 'no longer logged', colour: 'error' },
    { column: 'other', colour: 'left-out', opacity: 0.45 },
  ],
  coverage: [
    { column: 'connected', colour: 'logged' },
    { column: 'not connected', colour: 'waiting' },
    { column: 'not covered', colour: 'left-out', opacity: 0.45 },
  ],
  stages: [{ column: 'in it', colour: 'logged' }],
  'last-touch': [
    { column: 'this week', colour: 'logged' },
    { column: 'this month', colour: 'logged', opacity: 0.6 },
    { column: 'this quarter', colour: 'left-out', opacity: 0.45 },
    { column: 'longer ago', colour: 'waiting' },
    { column: 'never', colour: 'error' },
  ],
}

/** Of measures that are counted; those that are spread out are drawn otherwise. */
export function plotOf(sheet: Pick<Sheet, 'measure' | 'by'>): Plot | null {
  const bars = STACKS[sheet.measure.name]
  return bars ? { bars, flat: sheet.by !== 'month' && sheet.by !== 'week' } : null
}

/** How tall its plot is, in pixels: known before the plot itself is loaded. */
export function heightOf(sheet: Pick<Sheet, 'measure' | 'by' | 'lines'>): number {
  return plotOf(sheet)?.flat ? 90 + sheet.lines.length * 26 : 260
}

/** The values of a column, line by line. */
export function valuesOf(sheet: Pick<Sheet, 'columns' | 'lines'>, column: string): (number | null)[] {
  const at = sheet.columns.findIndex((c) => c.name === column)
  return sheet.lines.map((l) => l.cells[at]?.value ?? null)
}
