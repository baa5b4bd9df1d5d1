<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, toRefs } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import CoverageTable from './CoverageTable.vue'
import { useCoverage } from './coverageQueries'

const EVERY_MILLIS = 5_000
const SILENT_DAYS = 7
const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useCoverage()
const narrowed = reactive({ find: '', state: '', silent: '' })
useInAddress(narrowed)
const { find, state } = toRefs(narrowed)
const silent = computed({
  get: () => narrowed.silent === 'yes',
  set: (on) => (narrowed.silent = on ? 'yes' : ''),
})
const states = computed(() => {
  const counts = new Map<string, number>()
  data.value?.forEach((p) => counts.set(p.state, (counts.get(p.state) ?? 0) + 1))
  return [...counts].sort(([a], [b]) => (a === 'capturing' ? -1 : b === 'capturing' ? 1 : a.localeCompare(b)))
})
const shown = computed(
  () =>
    data.value?.filter(
      (p) =>
        (!state.value || p.state === state.value) &&
        (!silent.value || (p.silentDays ?? SILENT_DAYS) >= SILENT_DAYS) &&
        `${p.name} ${p.team} ${p.role} ${p.policyName ?? ''}`
          .toLowerCase()
          .includes(find.value.trim().toLowerCase()),
    ) ?? [],
)
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => (timer = setInterval(() => void refetch(), EVERY_MILLIS)))
onBeforeUnmount(() => clearInterval(timer))

useShortcuts([
  { keys: '/', does: 'Find a person', run: () => document.getElementById('find-person')?.focus() },
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Coverage</h1>
      <span class="quiet">everybody in the company: their policy and why, and their connections</span>
    </header>
    <div class="bar">
      <label class="field"
        >find<input id="find-person" v-model="find" type="search" placeholder="name, team, role or policy"
      /></label>
      <div role="group" aria-label="States" class="states">
        <button :aria-pressed="!state" @click="state = ''">all {{ data?.length ?? '' }}</button>
        <button
          v-for="[s, n] in states"
          :key="s"
          :aria-pressed="state === s"
          @click="state = state === s ? '' : s"
        >
          {{ s.replaceAll('-', ' ') }} {{ n }}
        </button>
      </div>
      <label><input v-model="silent" type="checkbox" /> silent for {{ SILENT_DAYS }} days</label>
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'person', 'people') : '…' }}</span>
    </div>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="data?.length ? 'Nobody fits' : 'Nobody is known yet'"
          :todo="data?.length ? 'Widen it.' : 'Import the people under Directory.'"
          @again="refetch()"
        />
        <CoverageTable v-else :people="shown" :may-change="isAdministrator" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.states {
  display: flex;
  gap: 2px;
  flex-wrap: wrap;
}
.states button {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--line);
  padding: 2px 9px;
  cursor: pointer;
}
.states button[aria-pressed='true'] {
  border-color: var(--accent);
  box-shadow: inset 0 -2px var(--accent);
  font-weight: 600;
}
</style>
