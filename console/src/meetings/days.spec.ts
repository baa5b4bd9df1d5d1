import { beforeAll, describe, expect, it } from 'vitest'
import { screen } from '../kernel/screen'
import { daysOf, isOn, movedBy, placed, startOfWeek, titleOf, turned, wallTime, type Meeting } from './days'
import { addDays, minuteOf } from '../kernel/wall'

function meeting(begins: Date, minutes: number, allDay = false): Meeting {
  return {
    id: begins.toISOString() + minutes,
    begins: begins.toISOString(),
    ends: new Date(begins.getTime() + minutes * 60_000).toISOString(),
    allDay,
    visibility: 'full',
    state: 'planned',
    sort: 'meeting',
    title: 'Signing',
    place: '',
    account: '',
    owners: [],
    mine: true,
    source: null,
    result: '',
  }
}
beforeAll(() => void (screen.zone = 'UTC'))

const monday = new Date(Date.UTC(2026, 4, 4))
const at = (hour: number, minute = 0) => new Date(Date.UTC(2026, 4, 4, hour, minute))

describe('the days of a view', () => {
  it('begin weeks on the day that the reader prefers', () => {
    screen.firstDay = 0
    expect(startOfWeek(monday)).toEqual(addDays(monday, -1))
    screen.firstDay = 6
    expect(startOfWeek(monday)).toEqual(addDays(monday, -2))
    screen.firstDay = 1
  })

  it('are those of the reader’s zone', () => {
    const late = meeting(new Date('2026-05-04T23:30:00Z'), 60)
    expect(isOn(late, monday)).toBe(true)
    screen.zone = 'Asia/Tokyo'
    expect(isOn(late, monday)).toBe(false)
    expect(placed([late], addDays(monday, 1))[0]).toMatchObject({ top: 510, height: 60 })
    screen.zone = 'UTC'
  })

  it('begin weeks on Monday and months with the Monday before', () => {
    expect(startOfWeek(new Date(Date.UTC(2026, 4, 10, 15)))).toEqual(monday)
    expect(daysOf('week', new Date(Date.UTC(2026, 4, 6)))).toHaveLength(7)
    const month = daysOf('month', new Date(Date.UTC(2026, 4, 20)))
    expect(month).toHaveLength(42)
    expect(month[0]).toEqual(new Date(Date.UTC(2026, 3, 27)))
  })

  it('turn by their own length', () => {
    expect(turned('month', new Date(Date.UTC(2026, 0, 31)), 1)).toEqual(new Date(Date.UTC(2026, 1, 1)))
    expect(turned('week', monday, -1)).toEqual(addDays(monday, -7))
    expect(titleOf('month', monday)).toBe('May 2026')
  })
})

describe('placing', () => {
  it('puts side by side what overlaps, and leaves the width to what does not', () => {
    const [a, b, c] = placed([meeting(at(9), 60), meeting(at(9, 30), 60), meeting(at(11), 30)], monday)
    expect([a!.column, b!.column, c!.column]).toEqual([0, 1, 0])
    expect([a!.columns, b!.columns, c!.columns]).toEqual([2, 2, 1])
    expect([a!.top, a!.height]).toEqual([540, 60])
  })

  it('uses a column again once it is free', () => {
    const all = placed([meeting(at(9), 180), meeting(at(9), 60), meeting(at(10), 60)], monday)
    expect(all.map((p) => p.column)).toEqual([0, 1, 1])
    expect(all.every((p) => p.columns === 2)).toBe(true)
  })

  it('cuts at midnight what goes on, and draws what is short tall enough to hit', () => {
    const [late] = placed([meeting(at(23), 180)], monday)
    expect(late!.top + late!.height).toBe(1440)
    expect(placed([meeting(at(23), 180)], addDays(monday, 1))[0]).toMatchObject({ top: 0, height: 120 })
    expect(placed([meeting(at(9), 0)], monday)[0]!.height).toBeGreaterThan(15)
  })

  it('keeps whole days out of the hours', () => {
    const day = meeting(new Date(Date.UTC(2026, 4, 4)), 1440, true)
    expect(placed([day], monday)).toEqual([])
    expect(isOn(day, monday)).toBe(true)
    expect(isOn(day, addDays(monday, 1))).toBe(false)
  })
})

it('drags in quarters of an hour', () => {
  expect(wallTime(monday, 608)).toEqual(at(10, 15))
  expect(minuteOf(at(9, 5))).toBe('2026-05-04T09:05')
})

describe('dragging', () => {
  it('sideways keeps the minutes', () => {
    expect(movedBy(at(9, 10), 1, 0)).toEqual(addDays(at(9, 10), 1))
    expect(movedBy(at(9, 10), -2, 0)).toEqual(addDays(at(9, 10), -2))
  })

  it('up and down goes in quarters of an hour', () => {
    expect(movedBy(at(9, 10), 0, 30)).toEqual(at(9, 45))
    expect(movedBy(at(9), 1, -60)).toEqual(addDays(at(8), 1))
  })

  it('by a later day of the meeting moves it as far as that was dragged', () => {
    // from Monday 22:00 into Tuesday: dragged by the piece on Tuesday, an hour down and a day on
    expect(movedBy(at(22), 1, 60)).toEqual(addDays(at(23), 1))
    expect(movedBy(at(23, 30), 0, 60)).toEqual(addDays(at(0, 30), 1))
  })
})
