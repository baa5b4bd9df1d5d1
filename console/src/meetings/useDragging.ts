import { ref, type Ref } from 'vue'
import { wall } from '../kernel/wall'
import { STEP, movedBy, type Meeting, type Placed } from './days'

interface Drag {
  placed: Placed
  from: number
  y: number
  x: number
  minutes: number
  days: number
  moved: boolean
}

const KEYS: Record<string, [days: number, minutes: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
}

export function isMovable(meeting: Meeting): boolean {
  return meeting.mine && meeting.state === 'planned'
}

/**
 * Taking a meeting to another hour or day, by mouse or by Alt and an arrow.
 *
 * @param scroller holds the columns, one a day
 * @param hour how tall one is, in pixels
 * @param days how many columns there are
 * @param move hears when it begins then, on the wall
 */
export function useDragging(
  scroller: Ref<HTMLElement | null>,
  hour: number,
  days: () => number,
  move: (meeting: Meeting, begins: Date) => void,
) {
  const drag = ref<Drag | null>(null)
  /** A drag ends with a click that opens nothing. */
  let dragged = false
  const width = () => (scroller.value?.querySelector('.column')?.clientWidth ?? 100) + 1
  function target(d: Drag): Date {
    return movedBy(wall(d.placed.meeting.begins), d.days, d.minutes)
  }
  return {
    drag,
    width,
    target,
    down(event: PointerEvent, placed: Placed, from: number) {
      if (event.button !== 0 || !isMovable(placed.meeting)) return
      drag.value = { placed, from, y: event.clientY, x: event.clientX, minutes: 0, days: 0, moved: false }
      ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    },
    over(event: PointerEvent) {
      const d = drag.value
      if (!d) return
      d.minutes = Math.round((((event.clientY - d.y) / hour) * 60) / STEP) * STEP
      d.days = Math.min(days() - 1 - d.from, Math.max(-d.from, Math.round((event.clientX - d.x) / width())))
      d.moved ||= d.minutes !== 0 || d.days !== 0
    },
    up() {
      const d = drag.value
      dragged = d?.moved ?? false
      drag.value = null
      if (d?.moved) move(d.placed.meeting, target(d))
    },
    cancel: () => void (drag.value = null),
    /** Whether a click is one of its own, and not the end of a drag. */
    isClick(): boolean {
      const own = !dragged
      dragged = false
      return own
    },
    key(event: KeyboardEvent, meeting: Meeting) {
      const step = KEYS[event.key]
      if (!event.altKey || !step || !isMovable(meeting)) return
      event.preventDefault()
      event.stopPropagation()
      move(meeting, movedBy(wall(meeting.begins), ...step))
    },
  }
}
