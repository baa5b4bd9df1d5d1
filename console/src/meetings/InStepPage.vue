<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import HeldChange from '../connections/HeldChange.vue'
import StateNote from '../kernel/StateNote.vue'
import { useOpened } from '../kernel/useOpened'
import { useShortcuts } from '../kernel/shortcuts'
import { useMe } from '../kernel/useMe'
import ViewTabs from '../kernel/ViewTabs.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import CalendarStands from './CalendarStands.vue'
import ConflictTable from './ConflictTable.vue'
import FeedList from './FeedList.vue'
import HereAlone from './HereAlone.vue'
import MeetingPanel from './MeetingPanel.vue'
import OutboxStrip from './OutboxStrip.vue'
import SendOut from './SendOut.vue'
import { useConflicts, useFeeds, useInStep } from './instep'

/** How both sides stand: each calendar, what was changed on both at once, what never went out, who subscribes. */
const route = useRoute()
const router = useRouter()
const { data, error, asyncStatus, refetch } = useInStep()
const { data: conflicts } = useConflicts()
const { data: feeds } = useFeeds()
const { seesAll } = useMe()
const VIEWS = ['calendars', 'conflicts', 'not sent out', 'subscriptions'] as const
const view = computed(() => VIEWS.find((v) => v === route.query.view) ?? 'calendars')
const opened = useOpened()
const held = ref<{ id: number; label: string; held: string } | null>(null)
const sending = ref<{ person: string; personName: string } | null>(null)
const tabs = computed(() => {
  const n: Record<string, number | undefined> = {
    calendars: data.value?.calendars.length,
    conflicts: conflicts.value?.length,
    'not sent out': data.value?.here.reduce((sum, h) => sum + h.meetings, 0),
    subscriptions: feeds.value?.length,
  }
  return VIEWS.map((v, i) => ({ value: v, title: v, n: n[v], keys: String(i + 1) }))
})
function show(v: string) {
  void router.replace({ query: { view: v } })
}
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') },
  ...VIEWS.map((v, i) => ({ keys: String(i + 1), does: `Show ${v}`, run: () => show(v) })),
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Sync</h1>
      <span class="quiet">how each calendar compares with what was made or changed here</span>
    </header>
    <OutboxStrip v-if="seesAll" />
    <div class="bar">
      <ViewTabs :model-value="view" :views="tabs" label="What is shown" @update:model-value="show" />
    </div>
    <div class="panes">
      <div class="pane main" :aria-busy="asyncStatus === 'loading'">
        <StateNote
          v-if="error || !data"
          :error="error"
          :loading="asyncStatus === 'loading'"
          @again="refetch()"
        />
        <template v-else-if="view === 'calendars'">
          <StateNote
            v-if="!data.calendars.length"
            empty="No calendar is connected yet"
            todo="Connect one on the page Connections."
          />
          <CalendarStands
            v-else
            :calendars="data.calendars"
            @held="held = $event"
            @conflicts="show('conflicts')"
          />
        </template>
        <ConflictTable v-else-if="view === 'conflicts'" :opened="opened" @open="opened = $event" />
        <template v-else-if="view === 'not sent out'">
          <StateNote
            v-if="!data.here.length"
            empty="Nothing waits to be sent out"
            todo="Everything created here is in its owner’s calendar."
          />
          <HereAlone v-else :here="data.here" @send="sending = $event" />
        </template>
        <FeedList v-else />
      </div>
      <MeetingPanel v-if="opened" :id="opened" class="pane detail" @close="opened = ''" />
    </div>
    <HeldChange v-if="held" :source="held" @close="((held = null), refetch())" />
    <SendOut
      v-if="sending"
      :person="sending.person"
      :name="sending.personName"
      @close="sending = null"
      @sent="tell(`${many($event, 'meeting')} on the way`)"
    />
  </div>
</template>
