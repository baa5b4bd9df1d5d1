<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { many } from '../kernel/times'

/** How capture stands for everybody: each state with its people, and what stands beside it. */
const props = defineProps<{
  people: Schemas['CoverageInfo'][]
  calendars: Schemas['CalendarStand'][]
  conflicts: number
  left: number
}>()
const SILENT_DAYS = 7
const COLOURS: Record<string, string> = {
  capturing: 'logged',
  connecting: 'waiting',
  overdue: 'waiting',
  paused: 'waiting',
  'waiting-for-consent': 'waiting',
  unreachable: 'unreadable',
  'needs-sign-in': 'unreadable',
  refused: 'unreadable',
}
const states = computed(() => {
  const counts = new Map<string, number>()
  props.people.forEach((p) => counts.set(p.state, (counts.get(p.state) ?? 0) + 1))
  return [...counts]
    .map(([state, n]) => ({ state, n, colour: COLOURS[state] ?? 'left-out' }))
    .sort((a, b) => (a.state === 'capturing' ? -1 : b.state === 'capturing' ? 1 : b.n - a.n))
})
const silent = computed(() => props.people.filter((p) => (p.silentDays ?? SILENT_DAYS) >= SILENT_DAYS).length)
const alike = computed(() => props.calendars.filter((c) => c.pendingSync === 0 && !c.held).length)
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Coverage</h2>
      <router-link to="/coverage">{{ many(people.length, 'person', 'people') }}</router-link>
    </div>
    <div class="stack" aria-hidden="true">
      <span
        v-for="s in states"
        :key="s.state"
        :style="{ flex: s.n, background: `rgb(var(--v-theme-${s.colour}))` }"
      />
    </div>
    <router-link
      v-for="s in states"
      :key="s.state"
      class="state"
      :to="{ path: '/coverage', query: { state: s.state } }"
    >
      <i :style="{ background: `rgb(var(--v-theme-${s.colour}))` }" /><span>{{
        s.state.replaceAll('-', ' ')
      }}</span
      ><b>{{ s.n }}</b>
    </router-link>
    <hr />
    <router-link class="state" to="/in-step"
      ><span>calendars in sync</span><b>{{ alike }} of {{ calendars.length }}</b></router-link
    >
    <router-link class="state" :to="{ path: '/in-step', query: { view: 'conflicts' } }"
      ><span>conflicts</span><b>{{ conflicts }}</b></router-link
    >
    <router-link class="state" :to="{ path: '/coverage', query: { silent: 'yes' } }"
      ><span>silent for {{ SILENT_DAYS }} days</span><b>{{ silent }}</b></router-link
    >
    <p v-if="left > 0" class="state" role="status">
      <span>being re-evaluated</span><b>{{ left.toLocaleString('en-GB') }}</b>
    </p>
  </v-card>
</template>

<style scoped>
.stack {
  display: flex;
  gap: 2px;
  height: 10px;
  margin: 6px 0 8px;
}
.stack span {
  border-radius: 2px;
}
.state {
  display: flex;
  align-items: center;
  line-height: 22px;
  text-decoration: none;
}
.state:hover span {
  text-decoration: underline;
}
.state i {
  width: 9px;
  height: 9px;
  border-radius: 2px;
  margin-right: 6px;
}
.state b {
  margin-left: auto;
}
hr {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 8px 0;
}
</style>
