<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, ref, toRefs } from 'vue'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import { useStates } from '../kernel/useStates'
import ConnectChosen from './ConnectChosen.vue'
import CoverageTable from './CoverageTable.vue'
import { useCoverage } from './coverageQueries'

/** What only time changes, such as that somebody is behind. */
const EVERY_MILLIS = 30_000
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
const states = useStates(() => data.value)
const picked = ref<string[]>([])
const chosen = computed(() => shown.value.filter((p) => picked.value.includes(p.id)))
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
</script>

<template>
  <div class="page">
    <header>
      <h1>Coverage</h1>
      <span class="quiet">everybody in the company: their policy and why, and their connections</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="name, team, role or policy" does="Find a person" />
      <ViewTabs v-model="state" :views="states" label="State" />
      <v-checkbox v-model="silent" :label="`Silent for ${SILENT_DAYS} days`" />
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'person', 'people') : '…' }}</span>
    </div>
    <ConnectChosen v-if="chosen.length" :chosen="chosen" @done="picked = []" />
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="data?.length ? 'Nobody fits' : 'Nobody is known yet'"
          :todo="data?.length ? 'Take a filter away.' : 'Import the people under Directory.'"
          @again="refetch()"
        />
        <CoverageTable v-else v-model:picked="picked" :people="shown" :may-change="isAdministrator" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
</style>
