import { beforeEach, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { said } from '../kernel/snackbar'
import { screen } from '../kernel/screen'
import type { Meeting } from './days'
import { laterByDays, useMoves } from './useMoves'

interface Told {
  item: string
  begins: string
  seen: { begins: string }
  answer: () => void
  refuse: (why: string) => void
}
const told: Told[] = []
vi.mock('./queries', () => ({
  useChange: () => ({
    mutateAsync: (wanted: Omit<Told, 'answer' | 'refuse'>) =>
      new Promise((answer, refuse) =>
        told.push({
          ...wanted,
          answer: () => answer({ says: 'Changed.' }),
          refuse: (why) => refuse(new Error(why)),
        }),
      ),
  }),
}))
const at = (hour: number) => new Date(Date.UTC(2026, 4, 4, hour)).toISOString()
function meeting(hour: number, more: Partial<Meeting> = {}): Meeting {
  return { id: 'm', begins: at(hour), ends: at(hour + 1), mine: true, state: 'planned', ...more } as Meeting
}
function calendar() {
  const meetings = ref<Meeting[]>([meeting(9)])
  const asking = ref(false)
  const scope = effectScope()
  const moves = scope.run(() =>
    useMoves(
      () => meetings.value,
      () => asking.value,
    ),
  )!
  return { meetings, asking, scope, ...moves }
}
const settled = () => new Promise((done) => setTimeout(done))
beforeEach(() => {
  told.length = 0
  said.value = null
  screen.zone = 'UTC'
})

it('goes on from where the meeting stands, and tells the service one after the other', async () => {
  const { meetings, shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  expect(shown.value[0]).toMatchObject({ begins: at(10), ends: at(11) })
  void moveTo(shown.value[0]!, at(11))
  void moveTo(shown.value[0]!, at(12))
  expect(shown.value[0]).toMatchObject({ begins: at(12), ends: at(13) })
  expect(told).toHaveLength(1)
  told[0]!.answer()
  await settled()
  expect(told.map((t) => [t.seen.begins, t.begins])).toEqual([
    [at(9), at(10)],
    [at(10), at(12)],
  ])
  // what the service said of the first is no news
  meetings.value = [meeting(10)]
  await nextTick()
  expect(shown.value[0]!.begins).toBe(at(12))
  told[1]!.answer()
  await settled()
  expect(shown.value[0]!.begins).toBe(at(12))
})

it('stands where it was as soon as a move is undone, and goes on from there', async () => {
  const { meetings, shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  told[0]!.answer()
  await settled()
  const undone = said.value!.undo!()
  expect(shown.value[0]!.begins).toBe(at(9))
  expect(told[1]).toMatchObject({ begins: at(9), seen: { begins: at(10) } })
  void moveTo(shown.value[0]!, at(8))
  told[1]!.answer()
  await settled()
  expect(told[2]).toMatchObject({ begins: at(8), seen: { begins: at(9) } })
  told[2]!.answer()
  await expect(undone).resolves.toBe('Changed.')
  meetings.value = [meeting(8)]
  await nextTick()
  expect(shown.value[0]!.begins).toBe(at(8))
})

it('does not fall back to meetings from before the move while newer ones are on their way', async () => {
  const { meetings, asking, shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  told[0]!.answer()
  await settled()
  // another span of days, as it was when it was last looked at
  asking.value = true
  meetings.value = [meeting(9)]
  await nextTick()
  expect(shown.value[0]!.begins).toBe(at(10))
  meetings.value = [meeting(11)]
  asking.value = false
  await nextTick()
  expect(shown.value[0]!.begins).toBe(at(11))
})

it('says that an undo was refused, and stands where the service has it', async () => {
  const { meetings, shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  told[0]!.answer()
  await settled()
  meetings.value = [meeting(10)]
  const undone = said.value!.undo!()
  told[1]!.refuse('Somebody changed this meanwhile')
  await expect(undone).rejects.toThrow('Somebody changed this meanwhile')
  expect(shown.value[0]!.begins).toBe(at(10))
})

it('follows the service again once all was told', async () => {
  const { meetings, shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  told[0]!.answer()
  await settled()
  meetings.value = [meeting(15)]
  await nextTick()
  expect(shown.value[0]!.begins).toBe(at(15))
  void moveTo(shown.value[0]!, at(16))
  expect(told[1]!.seen.begins).toBe(at(15))
})

it('stands where it was when the service refuses, and says why', async () => {
  const { shown, moveTo } = calendar()
  void moveTo(shown.value[0]!, at(10))
  void moveTo(shown.value[0]!, at(11))
  told[0]!.refuse('Somebody changed this meanwhile')
  await settled()
  expect(told).toHaveLength(1)
  expect(shown.value[0]!.begins).toBe(at(9))
  expect(said.value!.says).toBe('It was not moved: Somebody changed this meanwhile.')
})

it('keeps whole days at midnight UTC, and hours on the wall, over a change of clocks', () => {
  screen.zone = 'Europe/Berlin'
  const whole = meeting(0, {
    allDay: true,
    begins: '2026-03-28T00:00:00.000Z',
    ends: '2026-03-29T00:00:00.000Z',
  })
  expect(laterByDays(whole, 7)).toBe('2026-04-04T00:00:00.000Z')
  expect(laterByDays(meeting(0, { begins: '2026-03-28T09:00:00.000Z' }), 7)).toBe('2026-04-04T08:00:00.000Z')
})
