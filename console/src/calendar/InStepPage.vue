<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import HeldChange from '../connections/HeldChange.vue'
import StateNote from '../shared/StateNote.vue'
import WhenAt from '../shared/WhenAt.vue'
import { useChanges } from '../shared/useChanges'
import { useShortcuts } from '../shared/shortcuts'
import { many } from '../shared/times'
import ConflictTable from './ConflictTable.vue'
import FeedList from './FeedList.vue'
import MeetingPanel from './MeetingPanel.vue'
import SendOut from './SendOut.vue'
import { newsOf, useConflicts, useFeeds, useInStep } from './instep'

/** How both sides stand: each calendar, what was changed on both at once, what never went out, who subscribes. */
const route = useRoute()
const router = useRouter()
const { data, error, asyncStatus, refetch } = useInStep()
const { data: conflicts } = useConflicts()
const { data: feeds } = useFeeds()
const VIEWS = ['calendars', 'conflicts', 'not sent out', 'subscriptions'] as const
const view = computed(() => VIEWS.find((v) => v === route.query.view) ?? 'calendars')
const opened = ref('')
const said = ref('')
const held = ref<{ id: number; label: string; held: string } | null>(null)
const sending = ref<{ person: string; personName: string } | null>(null)
const counts = computed<Record<string, number | undefined>>(() => ({
  calendars: data.value?.calendars.length,
  conflicts: conflicts.value?.length,
  'not sent out': data.value?.here.reduce((n, h) => n + h.meetings, 0),
  subscriptions: feeds.value?.length,
}))
function show(v: string) {
  opened.value = ''
  void router.replace({ query: { view: v } })
}
useChanges()
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') },
  ...VIEWS.map((v, i) => ({ keys: String(i + 1), does: `Show ${v}`, run: () => show(v) })),
])
</script>

<template>
  <div class="page">
    <header>
      <h1>In step</h1>
      <span class="quiet">how calendars and what was made or changed here stand with each other</span>
    </header>
    <div class="bar">
      <div class="tabs" role="radiogroup" aria-label="What is shown">
        <label v-for="(v, i) in VIEWS" :key="v" :title="`Show ${v} (${i + 1})`"
          ><input type="radio" name="in-step" :value="v" :checked="v === view" @change="show(v)" /> {{ v }}
          <span class="quiet">{{ counts[v] ?? '' }}</span></label
        >
      </div>
      <span v-if="said" role="status">{{ said }}</span>
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
            empty="No calendar is looked at yet"
            todo="Connect one on the page Connections."
          />
          <table v-else class="plain">
            <thead>
              <tr>
                <th>Whose</th>
                <th>Calendar</th>
                <th>State</th>
                <th>Last look</th>
                <th>Next</th>
                <th>Last news</th>
                <th class="num" title="Stand alike here and there">Alike</th>
                <th class="num" title="Have yet to be settled">Owed</th>
                <th class="num" title="Changed on both sides at once, in the last ninety days">Conflicts</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="c in data.calendars" :key="c.source">
                <td>{{ c.personName }}</td>
                <td>
                  {{ c.label }}
                  <span v-if="c.outgoing && c.goesOut" class="quiet">what is made here goes there</span>
                  <span v-else-if="!c.goesOut" class="quiet">in only</span>
                </td>
                <td>
                  <button
                    v-if="c.held && c.mayChange"
                    class="linkish warn"
                    @click="held = { id: c.source, label: c.label, held: 'Much vanished' }"
                  >
                    held: look at it
                  </button>
                  <span v-else :class="{ warn: c.held || c.state !== 'capturing' }">{{
                    c.held ? 'held' : c.state
                  }}</span>
                </td>
                <td class="nowrap">
                  <WhenAt v-if="c.lastRun" :at="c.lastRun" only="distance" /><template v-else>never</template>
                </td>
                <td class="nowrap"><WhenAt v-if="c.nextRun" :at="c.nextRun" only="clock" /></td>
                <td class="quiet">{{ newsOf(c.news) }}</td>
                <td class="num">{{ c.alike }}</td>
                <td class="num" :class="{ warn: c.stuck }">
                  {{ c.owed }}<template v-if="c.stuck">, {{ c.stuck }} stuck</template>
                </td>
                <td class="num">
                  <button v-if="c.conflicts" class="linkish" @click="show('conflicts')">
                    {{ c.conflicts }}
                  </button>
                  <template v-else>0</template>
                </td>
              </tr>
            </tbody>
          </table>
        </template>
        <ConflictTable v-else-if="view === 'conflicts'" :opened="opened" @open="opened = $event" />
        <template v-else-if="view === 'not sent out'">
          <StateNote
            v-if="!data.here.length"
            empty="Nothing that lies ahead stands here alone"
            todo="All that was made here is in its owner’s calendar."
          />
          <table v-else class="plain narrow">
            <thead>
              <tr>
                <th>Whose</th>
                <th class="num">Made here alone</th>
                <th class="num">Could go out</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="h in data.here" :key="h.person">
                <td>{{ h.personName }}</td>
                <td class="num">{{ h.meetings }}</td>
                <td class="num">{{ h.couldGo }}</td>
                <td>
                  <button v-if="h.couldGo" class="linkish" @click="sending = h">Send out…</button>
                  <span v-else class="quiet">the policy lets these kinds go to no calendar</span>
                </td>
              </tr>
            </tbody>
          </table>
        </template>
        <FeedList v-else />
      </div>
      <MeetingPanel
        v-if="opened"
        :id="opened"
        class="pane detail"
        @close="opened = ''"
        @said="said = $event"
      />
    </div>
    <HeldChange v-if="held" :source="held" @close="((held = null), refetch())" />
    <SendOut
      v-if="sending"
      :person="sending.person"
      :name="sending.personName"
      @close="sending = null"
      @sent="said = `${many($event, 'meeting')} on the way.`"
    />
  </div>
</template>

<style scoped>
.main {
  flex: 1;
}
.narrow {
  width: auto;
}
.warn {
  color: rgb(var(--v-theme-error));
}
</style>
