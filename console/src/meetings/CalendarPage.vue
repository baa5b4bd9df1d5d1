<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { useOpened } from '../kernel/useOpened'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { dateOf, instant, today, wall } from '../kernel/wall'
import { useRecord } from '../timeline/queries'
import AgendaList from './AgendaList.vue'
import CalendarBar from './CalendarBar.vue'
import HourGrid from './HourGrid.vue'
import LayerMenu from './LayerMenu.vue'
import MeetingPanel from './MeetingPanel.vue'
import MonthGrid from './MonthGrid.vue'
import NewMeeting from './NewMeeting.vue'
import SideBySide from './SideBySide.vue'
import { wallTime } from './days'
import { useMeetings } from './queries'
import { useCalendarView } from './useCalendarView'
import { useKeptFocus } from './useKeptFocus'
import { laterByDays, useMoves } from './useMoves'

const calendar = useCalendarView()
const { view, around, record, hideDone, days, span, whose, go, goTo, turn } = calendar
const { data: recordInfo } = useRecord(record)
const opened = useOpened()
/** Something new: when it begins, on the wall. */
const making = ref<{ at: Date; minutes?: number } | null>(null)
const minutes = ref(30)
const hidden = ref<number[]>([])
/** A month shows the first of each day and how many there are: of a large team, all of them would be thousands. */
const perDay = computed(() => (view.value === 'month' && !hideDone.value && !hidden.value.length ? 4 : 0))
const { data, error, asyncStatus, refetch } = useMeetings(
  () => span.value.from,
  () => span.value.until,
  whose,
  perDay,
)
const several = computed(() => whose.value.people.length !== 1)

/** A layer without a colour of its own gets one of ours, always the same. */
const OURS = ['#1d6b4f', '#8f5a08', '#3d5a80', '#7a3e65', '#56685f', '#8a4b2a', '#2f6f77', '#6b5b95']
const colours = computed(
  () => new Map((data.value?.layers ?? []).map((l) => [l.source, l.colour || OURS[l.source % OURS.length]!])),
)
const counts = computed(() => new Map((data.value?.days ?? []).map((d) => [d.day, d.meetings])))
const total = computed(() =>
  counts.value.size ? [...counts.value.values()].reduce((a, b) => a + b, 0) : shown.value.length,
)
const DONE = ['held', 'missed', 'cancelled', 'declined']
const { shown: placed, moveTo } = useMoves(
  () => data.value?.meetings ?? [],
  () => asyncStatus.value === 'loading',
)
const shown = computed(() =>
  placed.value.filter(
    (m) => !(hideDone.value && DONE.includes(m.state)) && !hidden.value.includes(m.source ?? -1),
  ),
)
watch(whose, () => (hidden.value = []))
const grid = ref<HTMLElement | null>(null)
useKeptFocus(grid, () => shown.value)

function make(at: Date, length?: number) {
  making.value = { at, minutes: length }
}
function soonest(): Date {
  const now = wall(Date.now())
  const next = Math.ceil((now.getUTCHours() * 60 + now.getUTCMinutes()) / 30) * 30
  return wallTime(view.value === 'day' || view.value === 'free' ? around.value : today(), next)
}
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') },
  { keys: 'd', does: 'Day', run: () => go({ view: 'day' }) },
  { keys: 'w', does: 'Week', run: () => go({ view: 'week' }) },
  { keys: 'm', does: 'Month', run: () => go({ view: 'month' }) },
  { keys: 'a', does: 'Agenda', run: () => go({ view: 'agenda' }) },
  { keys: 'f', does: 'Free time, side by side', run: () => go({ view: 'free' }) },
  { keys: 't', does: 'Today', run: () => goTo(today()) },
  { keys: 'p', does: 'Back', run: () => turn(-1) },
  { keys: 'n', does: 'Forward', run: () => turn(1) },
  { keys: 'c', does: 'New meeting, call or follow-up', run: () => make(soonest()) },
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Calendar</h1>
      <span class="quiet">meetings, calls and follow-ups on timelines</span>
      <span class="quiet" aria-live="polite">{{
        data ? (data.more && !counts.size ? 'the first ' : '') + many(total, 'meeting') : '…'
      }}</span>
      <LayerMenu v-model="hidden" :layers="data?.layers ?? []" :colours="colours" />
      <v-btn
        class="ml-auto"
        size="small"
        color="primary"
        :prepend-icon="mdiPlus"
        title="New meeting, call or follow-up (c)"
        @click="make(soonest())"
        >New</v-btn
      >
    </header>
    <CalendarBar :shown="calendar" :record-name="recordInfo?.name ?? ''" />
    <div class="panes">
      <div ref="grid" class="pane main" :aria-busy="asyncStatus === 'loading'">
        <SideBySide
          v-if="view === 'free'"
          v-model:minutes="minutes"
          :day="around"
          :whose="whose"
          @make="make"
        />
        <StateNote
          v-else-if="error || !data"
          :error="error"
          :loading="asyncStatus === 'loading'"
          @again="refetch()"
        />
        <HourGrid
          v-else-if="view === 'day' || view === 'week'"
          :key="view"
          :days="days"
          :meetings="shown"
          :colours="colours"
          :opened="opened"
          :whose="several"
          @open="opened = $event"
          @move="(meeting, begins) => moveTo(meeting, instant(begins).toISOString())"
          @make="make"
        />
        <MonthGrid
          v-else-if="view === 'month'"
          :days="days"
          :month="around.getUTCMonth()"
          :counts="counts"
          :meetings="shown"
          :colours="colours"
          :opened="opened"
          :whose="several"
          @open="opened = $event"
          @day="go({ view: 'day', at: dateOf($event) })"
          @move="(meeting, by) => moveTo(meeting, laterByDays(meeting, by))"
        />
        <StateNote
          v-else-if="!shown.length"
          empty="Nothing in these four weeks"
          :todo="
            whose.followed
              ? 'Go forward, or follow a record: on its timeline, beside its name.'
              : 'Go forward, choose somebody else above, or create something.'
          "
        />
        <AgendaList v-else :days="days" :meetings="shown" :opened="opened" @open="opened = $event" />
      </div>
      <MeetingPanel v-if="opened" :id="opened" class="pane detail" @close="opened = ''" />
    </div>
    <NewMeeting
      v-if="making"
      :at="making.at"
      :minutes="making.minutes"
      :record="recordInfo && record ? { id: record, name: recordInfo.name } : null"
      :person="whose.people[0]"
      @close="making = null"
      @made="opened = $event"
    />
  </div>
</template>

<style scoped>
.main {
  overflow: hidden;
}
</style>
