import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useMe } from '../kernel/useMe'
import { dateOf, startOfDay, today, wallOf } from '../kernel/wall'
import { daysOf, spanOf, turned, type View } from './days'
import type { Whose } from './queries'

export const VIEWS: View[] = ['day', 'week', 'month', 'agenda', 'free']

/** What the calendar shows: all of it stands in the address. */
export function useCalendarView() {
  const route = useRoute()
  const router = useRouter()
  const { me } = useMe()
  const view = computed<View>(() =>
    VIEWS.includes(route.query.view as View) ? (route.query.view as View) : 'week',
  )
  /** A day on the wall. */
  const around = computed(() => startOfDay(wallOf(String(route.query.at)) ?? today()))
  const who = computed(() => String(route.query.who ?? (me.value?.person ? 'me' : 'all')))
  const record = computed(() => String(route.query.record ?? ''))
  const hideDone = computed(() => route.query.done === 'no')
  const days = computed(() => daysOf(view.value, around.value))
  const span = computed(() => spanOf(days.value))
  const whose = computed<Whose>(() => ({
    people:
      who.value === 'me'
        ? [me.value?.person ?? ''].filter(Boolean)
        : who.value.startsWith('person ')
          ? [who.value.slice(7)]
          : [],
    team: who.value.startsWith('team ') ? who.value.slice(5) : '',
    record: record.value,
    followed: who.value === 'followed',
  }))

  /** An empty value leaves the address. */
  function go(query: Record<string, string>) {
    const all = { ...route.query, ...query }
    void router.replace({ query: Object.fromEntries(Object.entries(all).filter(([, value]) => value)) })
  }
  return {
    view,
    around,
    who,
    record,
    hideDone,
    days,
    span,
    whose,
    go,
    goTo: (day: Date) => go({ at: dateOf(day) }),
    turn: (by: number) => go({ at: dateOf(turned(view.value, around.value, by)) }),
  }
}
