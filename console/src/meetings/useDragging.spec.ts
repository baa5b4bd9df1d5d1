import { beforeAll, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { screen } from '../kernel/screen'
import type { Meeting, Placed } from './days'
import { useDragging } from './useDragging'

const HOUR = 44
function meeting(more: Partial<Meeting> = {}): Meeting {
  return { id: 'm', begins: '2026-05-04T09:10:00Z', mine: true, state: 'planned', ...more } as Meeting
}
function placed(of: Meeting): Placed {
  return { meeting: of, top: 550, height: 30, column: 0, columns: 1 }
}
function pointer(x: number, y: number): PointerEvent {
  const currentTarget = { setPointerCapture: vi.fn() }
  return { button: 0, clientX: x, clientY: y, pointerId: 1, currentTarget } as unknown as PointerEvent
}
function grid(days = 7) {
  const moved: [string, string][] = []
  const dragging = useDragging(
    ref(null),
    HOUR,
    () => days,
    (m, begins) => moved.push([m.id, begins.toISOString()]),
  )
  return { moved, ...dragging }
}
beforeAll(() => void (screen.zone = 'UTC'))

describe('taking a meeting elsewhere', () => {
  it('goes by whole steps down, and keeps its minutes sideways', () => {
    const { moved, down, over, up, isClick } = grid()
    down(pointer(0, 0), placed(meeting()), 0)
    over(pointer(101, 0))
    up()
    expect(isClick()).toBe(false)
    down(pointer(0, 0), placed(meeting()), 0)
    over(pointer(0, HOUR))
    up()
    expect(moved).toEqual([
      ['m', '2026-05-05T09:10:00.000Z'],
      ['m', '2026-05-04T10:15:00.000Z'],
    ])
  })

  it('stays within the days that are shown', () => {
    const { moved, down, over, up } = grid(2)
    down(pointer(0, 0), placed(meeting()), 1)
    over(pointer(900, 0))
    up()
    expect(moved).toEqual([])
  })

  it('is a click where nothing was moved, and nothing at all for what is not one’s own', () => {
    const { moved, drag, down, up, isClick, key } = grid()
    down(pointer(0, 0), placed(meeting()), 0)
    up()
    expect(isClick()).toBe(true)
    down(pointer(0, 0), placed(meeting({ mine: false })), 0)
    expect(drag.value).toBeNull()
    key(new KeyboardEvent('keydown', { key: 'ArrowDown', altKey: true }), meeting({ state: 'held' }))
    expect(moved).toEqual([])
  })

  it.each([
    ['ArrowLeft', '2026-05-03T09:10:00.000Z'],
    ['ArrowRight', '2026-05-05T09:10:00.000Z'],
    ['ArrowUp', '2026-05-04T09:00:00.000Z'],
    ['ArrowDown', '2026-05-04T09:30:00.000Z'],
  ])('by Alt and %s', (name, begins) => {
    const { moved, key } = grid()
    key(new KeyboardEvent('keydown', { key: name }), meeting())
    expect(moved).toEqual([])
    key(new KeyboardEvent('keydown', { key: name, altKey: true }), meeting())
    expect(moved).toEqual([['m', begins]])
  })
})
