import { beforeEach, describe, expect, it } from 'vitest'
import { screen } from './screen'
import { clockOf, clockText, clockThere, dateText, dayOf, dayTyped, distance, many, minutesOf } from './times'

beforeEach(() => void Object.assign(screen, { dates: 'day-month', hours: 24, zone: 'UTC' }))

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

  it('writes days, clocks and zones as the reader prefers', () => {
    const at = '2026-05-04T20:05:00Z'
    expect([dayOf(at, false, new Date(now)), clockOf(at), dateText('2026-05-04')]).toEqual([
      expect.stringMatching(/^Mon,? 4 May$/),
      '20:05',
      '04/05/2026',
    ])
    Object.assign(screen, { dates: 'month-day', hours: 12, zone: 'Asia/Tokyo' })
    expect([dayOf(at, false, new Date(now)), clockOf(at), dateText('2026-05-04')]).toEqual([
      'Tue, May 5',
      '5:05 am',
      '05/04/2026',
    ])
    screen.dates = 'year-month'
    expect(dayOf(at)).toBe('Tue 2026-05-05')
    expect(clockText(0)).toBe('12:00 am')
    expect(clockText(725)).toBe('12:05 pm')
  })

  it.each([
    ['4.5.', '2026-05-04'],
    ['4/5/26', '2026-05-04'],
    ['04-05-2027', '2027-05-04'],
    ['2026-05-04', '2026-05-04'],
    ['', ''],
    ['31/2', null],
    ['someday', null],
    ['1 2 3 4', null],
  ])('understands %s as a day', (typed, day) => {
    expect(dayTyped(typed, new Date('2026-01-01T00:00:00Z'))).toBe(day)
    screen.dates = 'month-day'
    expect(dayTyped('5/4', new Date('2026-01-01T00:00:00Z'))).toBe('2026-05-04')
  })

  it.each([
    ['9', 540],
    ['930', 570],
    ['9:30', 570],
    ['21.30', 1290],
    ['9:30 pm', 1290],
    ['12 am', 0],
    ['12pm', 720],
    ['25', null],
    ['9:75', null],
    ['13 pm', null],
    ['noon', null],
  ])('understands %s as a time of day', (typed, minutes) => {
    expect(minutesOf(typed)).toBe(minutes)
  })
})
