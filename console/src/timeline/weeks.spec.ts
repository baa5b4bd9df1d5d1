import { describe, expect, it } from 'vitest'
import { barsOf, monthsOf } from './weeks'

const week = (begins: string, mail: number, meetings = 0) => ({
  begins: `${begins}T00:00:00Z`,
  mail,
  meetings,
})
const now = new Date('2026-05-13T12:00:00Z')

describe('the strip of weeks', () => {
  it('has a bar for every week, those without anything too', () => {
    const { bars, most } = barsOf(
      [week('2026-04-27', 3, 1), week('2026-05-11', 2), week('2026-05-18', 0, 1)],
      now,
    )
    expect(bars.map((b) => b.mail + b.meetings)).toEqual([4, 0, 2, 1])
    expect(bars.map((b) => b.ahead)).toEqual([false, false, false, true])
    expect(bars[0]!.last).toBe('2026-05-03')
    expect(most).toBe(4)
  })

  it('puts several weeks into a bar where there are many, and loses nothing', () => {
    const many = Array.from({ length: 500 }, (_, i) =>
      week(new Date(Date.UTC(2017, 0, 2 + i * 7)).toISOString().slice(0, 10), 1),
    )
    const { bars } = barsOf(many, now)
    expect(bars.length).toBeLessThanOrEqual(80)
    expect(bars.reduce((n, b) => n + b.mail, 0)).toBe(500)
  })

  it('is nothing where nothing is', () => {
    expect(barsOf([], now)).toEqual({ bars: [], most: 0 })
  })

  it('names months where they begin, with room between', () => {
    const { bars } = barsOf([week('2026-01-05', 1), week('2026-06-29', 1)], now)
    const names = monthsOf(bars, 8)
    expect(names[0]).toEqual({ at: 0, name: 'January 2026' })
    names.slice(1).forEach((m, i) => expect(m.at - names[i]!.at).toBeGreaterThanOrEqual(8))
  })
})
