import { describe, expect, it } from 'vitest'
import { dateOf, instant, minuteOf, wall, wallOf } from './wall'

describe('time on the wall', () => {
  it('comes back as the same instant, in any zone, at any hour', () => {
    for (const zone of [
      'UTC',
      'Europe/Oslo',
      'America/New_York',
      'Asia/Kathmandu',
      'Australia/Lord_Howe',
      'Pacific/Apia',
    ]) {
      for (
        let at = Date.parse('2026-01-01T00:30:00Z');
        at < Date.parse('2027-01-01T00:00:00Z');
        at += 5 * 3_600_000
      ) {
        const back = instant(wall(at, zone), zone).getTime()
        // an hour that the clock shows twice is the earlier one
        expect(wall(back, zone)).toEqual(wall(at, zone))
        expect(back).toBeLessThanOrEqual(at)
        expect(at - back).toBeLessThanOrEqual(3_600_000)
      }
    }
  })

  it('goes over an hour that the clock leaves out', () => {
    const gap = instant(new Date('2026-03-29T02:30:00Z'), 'Europe/Oslo')
    expect(gap.toISOString()).toBe('2026-03-29T01:30:00.000Z')
  })

  it('is written and read as text, and is nothing where the text is none', () => {
    expect(minuteOf(wall('2026-05-04T22:30:00Z', 'Europe/Oslo'))).toBe('2026-05-05T00:30')
    expect(dateOf(wallOf('2026-05-04T23:59')!)).toBe('2026-05-04')
    expect(wallOf('someday')).toBeNull()
  })
})
