import { computed, ref, watch } from 'vue'
import { tell } from '../kernel/snackbar'
import { addDays, instant, wall } from '../kernel/wall'
import type { Meeting } from './days'
import { useChange } from './queries'

/** So long after, and by whole days where it has no hours: those are filed at midnight UTC, whatever clocks do meanwhile. */
export function laterByDays(meeting: Meeting, days: number): string {
  if (meeting.allDay) return addDays(new Date(meeting.begins), days).toISOString()
  return instant(addDays(wall(meeting.begins), days)).toISOString()
}

interface Move {
  /** An instant; more keys may change it while the service is told of the one before. */
  begins: string
  /** The service has it; it stands until the meetings say so too. */
  told: boolean
}

/**
 * Taking meetings to other times. Each stands there at once, so that the next key goes on from there; the service is told of one change
 * of a meeting after the other, and of the last alone where several came meanwhile.
 */
export function useMoves(meetings: () => readonly Meeting[]) {
  const { mutateAsync: change } = useChange()
  const moves = ref(new Map<string, Move>())
  const shown = computed(() =>
    meetings().map((m) => {
      const move = moves.value.get(m.id)
      if (!move) return m
      const length = Date.parse(m.ends) - Date.parse(m.begins)
      return { ...m, begins: move.begins, ends: new Date(Date.parse(move.begins) + length).toISOString() }
    }),
  )
  watch(meetings, () => moves.value.forEach((move, id) => move.told && moves.value.delete(id)))

  /** @param meeting as it is shown */
  async function moveTo(meeting: Meeting, begins: string) {
    const { id } = meeting
    const under = moves.value.get(id)
    if (under && !under.told) {
      under.begins = begins
      return
    }
    moves.value.set(id, { begins, told: false })
    const move = moves.value.get(id)!
    let stands = meeting.begins
    let says = ''
    try {
      while (Date.parse(move.begins) !== Date.parse(stands)) {
        const next = move.begins
        says = (await change({ item: id, begins: next, seen: { begins: stands } })).says
        stands = next
      }
      move.told = true
      const now = stands
      tell(says, () => change({ item: id, begins: meeting.begins, seen: { begins: now } }))
    } catch (refused) {
      moves.value.delete(id)
      tell(`It was not moved: ${refused instanceof Error ? refused.message : 'try again'}.`)
    }
  }
  return { shown, moveTo }
}
