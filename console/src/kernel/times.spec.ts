import { describe, expect, it } from 'vitest'
import { clockThere, dayOf, distance, many } from './times'

describe('times', () => {
  const now = Date.parse('2026-05-04T12:00:00Z')

  it.each([
    ['2026-05-04T11:59:40Z', 'just now'],
    ['2026-05-04T11:15:00Z', '45 minutes ago'],
    ['2026-05-04T15:00:00Z', 'in 3 hours'],
    ['2026-05-03T11:00:00Z', 'yesterday'],
    ['2026-04-24T12:00:00Z', '10 days ago'],
  ])('tells the distance of %s in its largest unit', (at, said) => {
    expect(distance(at, now)).toBe(said)
  })

  it('keeps a whole day the same day in every zone, and names the year only when it is another', () => {
    expect(dayOf('2026-05-04T00:00:00Z', true, new Date(now))).toMatch(/^Mon,? 4 May$/)
    expect(dayOf('2025-05-04T00:00:00Z', true, new Date(now))).toContain('2025')
  })

  it('gives the clock at the other place only where it differs, and survives an unknown zone', () => {
    expect(clockThere('2026-05-04T12:00:00Z', '')).toBe('')
    expect(clockThere('2026-05-04T12:00:00Z', 'Harbour time')).toBe('')
    expect(clockThere('2026-05-04T12:00:00Z', 'Asia/Kathmandu')).toBe('17:45 in Asia/Kathmandu')
  })

  it('counts in the singular too', () => {
    expect(many(1, 'activity', 'activities')).toBe('1 activity')
    expect(many(1234, 'decision')).toBe('1,234 decisions')
  })
})
