import { reactive, watch } from 'vue'
import { tell } from '../kernel/snackbar'
import { useMe } from '../kernel/useMe'
import { addDays, dateOf, instant, startOfDay, wall, wallOf, zone } from '../kernel/wall'
import { useDelete, useMake } from './queries'

export const LENGTHS = [15, 30, 45, 60, 90, 120, 240, 480]
export const REMINDERS = [-1, 0, 5, 15, 30, 60, 1440]
const HALF_HOUR = 30

interface Given {
  at: Date
  minutes?: number
  record?: { id: string; name: string } | null
  person?: string
}

/** What is typed of a new meeting, call or follow-up, and creating it. */
export function useNewMeeting(given: Given, created: (item: string) => void) {
  const { me } = useMe()
  const inDay = given.at.getUTCHours() * 60 + given.at.getUTCMinutes()
  const first = new Date(startOfDay(given.at).getTime() + Math.ceil(inDay / HALF_HOUR) * HALF_HOUR * 60_000)
  const form = reactive({
    sort: 'meeting',
    title: '',
    day: '',
    begins: 0,
    minutes: given.minutes ?? 30,
    record: given.record ?? null,
    person: given.person ?? '',
    guests: '',
    ask: '',
    place: '',
    text: '',
    reminder: -1,
    isPrivate: false,
  })
  function begin(at: Date) {
    form.day = dateOf(at)
    form.begins = at.getUTCHours() * 60 + at.getUTCMinutes()
  }
  begin(first)
  watch(me, (now) => (form.person ||= now?.person ?? ''), { immediate: true })
  const { mutateAsync, error, asyncStatus } = useMake()
  const { mutateAsync: remove } = useDelete()

  async function create() {
    const day = wallOf(form.day)
    if (!day || !form.record) return
    const from = instant(new Date(day.getTime() + form.begins * 60_000))
    const usual = { 'follow-up': 'Follow up', call: 'Call' }[form.sort] ?? ''
    const done = await mutateAsync({
      sort: form.sort,
      title: form.title.trim() || usual,
      begins: from.toISOString(),
      ends: new Date(from.getTime() + form.minutes * 60_000).toISOString(),
      zone: zone(),
      records: [form.record.id],
      guests: form.guests.split(/[\s,;]+/).filter(Boolean),
      place: form.place,
      text: form.text,
      reminder: form.reminder,
      isPrivate: form.isPrivate,
      ...(form.ask && { ask: form.ask === 'yes' }),
      ...(form.person && { person: form.person }),
    }).catch(() => null)
    if (!done) return
    // who was invited cannot be made not to know
    tell(done.says, form.guests.trim() ? undefined : () => remove(done.item))
    created(done.item)
  }

  /** Something so many minutes from now; where the record is known, nothing is left to ask. */
  function soon(minutes: number, sort: string) {
    form.sort = sort
    form.minutes = 15
    const next = Math.ceil((Date.now() + minutes * 60_000) / 300_000) * 300_000
    begin(minutes === 24 * 60 ? addDays(wall(next - 24 * 3_600_000), 1) : wall(next))
    if (form.record && (form.person || !me.value || me.value.person)) void create()
  }
  return { form, create, soon, error, asyncStatus }
}
