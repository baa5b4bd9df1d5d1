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
  /** What the service says when it was told all of it. */
  says: Promise<string>
}

/**
 * Taking meetings to other times. Each stands there at once, so that the next key goes on from there; the service is told of one change
 * of a meeting after the other, and of the last alone where several came meanwhile.
 *
 * @param asking whether newer meetings are on their way: those at hand may be from before a move
 */
export function useMoves(meetings: () => readonly Meeting[], asking: () => boolean) {
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
  watch([meetings, asking], () => {
    if (!asking()) moves.value.forEach((move, id) => move.told && moves.value.delete(id))
  })

  async function tellAll(id: string, from: string): Promise<string> {
    const move = moves.value.get(id)!
    let stands = from
    let says = ''
    try {
      while (Date.parse(move.begins) !== Date.parse(stands)) {
        const next = move.begins
        says = (await change({ item: id, begins: next, seen: { begins: stands } })).says
        stands = next
      }
      move.told = true
      return says
    } catch (refused) {
      moves.value.delete(id)
      throw refused
    }
  }
  /** @return what the service says, or null where this is the next step of a move that is not told yet */
  function take(id: string, from: string, begins: string): Promise<string> | null {
    const under = moves.value.get(id)
    if (under && !under.told) {
      under.begins = begins
      return null
    }
    const move: Move = { begins, told: false, says: Promise.resolve('') }
    moves.value.set(id, move)
    move.says = tellAll(id, from)
    return move.says
  }

  /** @param meeting as it is shown */
  async function moveTo(meeting: Meeting, begins: string) {
    const { id, begins: from } = meeting
    const taken = take(id, from, begins)
    if (!taken) return
    const move = moves.value.get(id)!
    try {
      const says = await taken
      const now = move.begins
      // taken back, it stands there at once as well
      tell(says, () => take(id, now, from) ?? moves.value.get(id)!.says)
    } catch (refused) {
      tell(`It was not moved: ${refused instanceof Error ? refused.message : 'try again'}.`)
    }
  }
  return { shown, moveTo }
}
