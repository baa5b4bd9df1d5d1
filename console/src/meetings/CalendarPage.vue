<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { useChanges } from '../kernel/useChanges'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { useRecord } from '../timeline/queries'
import AgendaList from './AgendaList.vue'
import HourGrid from './HourGrid.vue'
import MeetingPanel from './MeetingPanel.vue'
import MonthGrid from './MonthGrid.vue'
import NewMeeting from './NewMeeting.vue'
import SideBySide from './SideBySide.vue'
import { addDays, dateOf, daysOf, titleOf, turned, type Meeting, type View } from './days'
import { useChange, useMeetings, usePeople, type Whose } from './queries'

const route = useRoute()
const router = useRouter()
const { me } = useMe()
const { data: people } = usePeople()
const VIEWS: View[] = ['day', 'week', 'month', 'agenda', 'free']
const view = computed<View>(() =>
  VIEWS.includes(route.query.view as View) ? (route.query.view as View) : 'week',
)
const around = computed(() => {
  const at = new Date(`${String(route.query.at)}T12:00`)
  return Number.isNaN(at.getTime()) ? new Date() : at
})
const who = computed(() => String(route.query.who ?? (me.value?.person ? 'me' : 'all')))
const record = computed(() => String(route.query.record ?? ''))
const { data: recordInfo } = useRecord(record)
const opened = ref('')
const said = ref('')
const making = ref<{ at: Date; minutes?: number } | null>(null)
const minutes = ref(30)
const hideDone = ref(false)
const hidden = ref<number[]>([])

const local = dateOf
function go(query: Record<string, string>) {
  void router.replace({ query: { ...route.query, ...query } })
}
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
const teams = computed(() => [...new Set((people.value ?? []).map((p) => p.team).filter(Boolean))].sort())
const days = computed(() => daysOf(view.value, around.value))
const from = computed(() => days.value[0]!)
const until = computed(() => addDays(days.value[days.value.length - 1]!, 1))
/** A month shows the first of each day and how many there are: of a large team, all of them would be thousands. */
const perDay = computed(() => (view.value === 'month' && !hideDone.value && !hidden.value.length ? 4 : 0))
const { data, error, asyncStatus, refetch } = useMeetings(from, until, whose, perDay)
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
const shown = computed(() =>
  (data.value?.meetings ?? []).filter(
    (m) => !(hideDone.value && DONE.includes(m.state)) && !hidden.value.includes(m.source ?? -1),
  ),
)
watch(whose, () => (hidden.value = []))

const { mutateAsync: change, error: moveError } = useChange()
async function move(meeting: Meeting, begins: Date) {
  said.value = ''
  const done = await change({
    item: meeting.id,
    begins: begins.toISOString(),
    seen: { begins: meeting.begins },
  }).catch(() => null)
  said.value = done?.says ?? `It was not moved: ${moveError.value?.message ?? 'try again'}.`
}
function made(item: string, says: string) {
  opened.value = item
  said.value = says
}
function turn(by: number) {
  go({ at: local(turned(view.value, around.value, by)) })
}
function make(at: Date, length?: number) {
  making.value = { at, minutes: length }
}
function soonest(): Date {
  const at = new Date()
  at.setMinutes(Math.ceil(at.getMinutes() / 30) * 30, 0, 0)
  return view.value === 'day' || view.value === 'free'
    ? new Date(
        around.value.getFullYear(),
        around.value.getMonth(),
        around.value.getDate(),
        at.getHours(),
        at.getMinutes(),
      )
    : at
}
useChanges()
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') },
  { keys: 'd', does: 'Day', run: () => go({ view: 'day' }) },
  { keys: 'w', does: 'Week', run: () => go({ view: 'week' }) },
  { keys: 'm', does: 'Month', run: () => go({ view: 'month' }) },
  { keys: 'a', does: 'Agenda', run: () => go({ view: 'agenda' }) },
  { keys: 'f', does: 'Free time, side by side', run: () => go({ view: 'free' }) },
  { keys: 't', does: 'Today', run: () => go({ at: local(new Date()) }) },
  { keys: 'p', does: 'Back', run: () => turn(-1) },
  { keys: 'n', does: 'On', run: () => turn(1) },
  { keys: 'c', does: 'Make something', run: () => make(soonest()) },
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Calendar</h1>
      <span class="quiet">meetings, calls and follow-ups that stand on timelines</span>
    </header>
    <div class="bar">
      <div class="turn">
        <v-btn size="small" variant="text" title="Back (p)" aria-label="Back" @click="turn(-1)">‹</v-btn>
        <v-btn size="small" variant="text" title="Today (t)" @click="go({ at: local(new Date()) })"
          >Today</v-btn
        >
        <v-btn size="small" variant="text" title="On (n)" aria-label="On" @click="turn(1)">›</v-btn>
        <strong aria-live="polite">{{ titleOf(view, around) }}</strong>
      </div>
      <div class="tabs" role="radiogroup" aria-label="View">
        <label v-for="v in VIEWS" :key="v"
          ><input type="radio" name="view" :value="v" :checked="v === view" @change="go({ view: v })" />
          {{ v === 'free' ? 'free time' : v }}</label
        >
      </div>
      <label class="field"
        >of<select
          :value="who"
          aria-label="Whose"
          @change="go({ who: ($event.target as HTMLSelectElement).value })"
        >
          <option v-if="me?.person" value="me">me alone</option>
          <option value="all">everybody</option>
          <option value="followed">the records I follow</option>
          <option v-for="t in teams" :key="t" :value="`team ${t}`">the team {{ t }}</option>
          <option v-for="p in people ?? []" :key="p.id" :value="`person ${p.id}`">{{ p.name }}</option>
        </select></label
      >
      <span v-if="record" class="record"
        >about {{ recordInfo?.name ?? '…' }}
        <button class="linkish" title="Show all again" @click="go({ record: '' })">×</button></span
      >
      <label><input v-model="hideDone" type="checkbox" /> hide what is done</label>
      <v-btn size="small" color="primary" title="New meeting, call or follow-up (c)" @click="make(soonest())"
        >New…</v-btn
      >
    </div>
    <div class="bar second">
      <span class="quiet" aria-live="polite">{{
        data ? (data.more && !counts.size ? 'the first ' : '') + many(total, 'meeting') : '…'
      }}</span>
      <details v-if="(data?.layers.length ?? 0) > 1" class="layers">
        <summary>{{ many(data!.layers.length, 'calendar') }}</summary>
        <div class="choose">
          <label v-for="l in data!.layers" :key="l.source"
            ><input
              type="checkbox"
              :checked="!hidden.includes(l.source)"
              @change="
                hidden = hidden.includes(l.source)
                  ? hidden.filter((h) => h !== l.source)
                  : [...hidden, l.source]
              "
            />
            <span class="swatch" :style="{ background: colours.get(l.source) }"></span>
            {{ l.personName }}, {{ l.label }}</label
          >
        </div>
      </details>
      <span v-if="said" role="status">{{ said }}</span>
    </div>
    <div class="panes">
      <div class="pane main" :aria-busy="asyncStatus === 'loading'">
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
          @move="move"
          @make="make"
        />
        <MonthGrid
          v-else-if="view === 'month'"
          :days="days"
          :month="around.getMonth()"
          :counts="counts"
          :meetings="shown"
          :colours="colours"
          :opened="opened"
          :whose="several"
          @open="opened = $event"
          @day="go({ view: 'day', at: local($event) })"
        />
        <StateNote
          v-else-if="!shown.length"
          empty="Nothing in these four weeks"
          :todo="
            whose.followed
              ? 'Turn on, or follow a record: on its timeline, beside its name.'
              : 'Turn on, choose others above, or make something.'
          "
        />
        <AgendaList v-else :days="days" :meetings="shown" :opened="opened" @open="opened = $event" />
      </div>
      <MeetingPanel
        v-if="opened"
        :id="opened"
        class="pane detail"
        @close="opened = ''"
        @said="said = $event"
      />
    </div>
    <NewMeeting
      v-if="making"
      :at="making.at"
      :minutes="making.minutes"
      :record="recordInfo && record ? { id: record, name: recordInfo.name } : null"
      :person="whose.people[0]"
      @close="making = null"
      @made="made"
    />
  </div>
</template>

<style scoped>
.main {
  overflow: hidden;
}
.turn {
  display: flex;
  align-items: center;
  gap: 2px;
}
.turn strong {
  min-width: 210px;
  margin-left: 6px;
}
.second {
  padding-top: 0;
  min-height: 26px;
}
.layers {
  position: relative;
}
.layers summary {
  cursor: pointer;
}
.choose {
  position: absolute;
  z-index: 5;
  top: 100%;
  left: 0;
  display: grid;
  gap: 2px;
  padding: 8px 12px;
  max-height: 320px;
  overflow: auto;
  background: var(--surface);
  border: 1px solid var(--line);
  white-space: nowrap;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin: 0 3px;
}
</style>
