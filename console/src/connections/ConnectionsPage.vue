<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, ref, toRefs } from 'vue'
import FindField from '../kernel/FindField.vue'
import PickedBar from '../kernel/PickedBar.vue'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import { useStates } from '../kernel/useStates'
import ActButtons from './ActButtons.vue'
import ConnectPerson from './ConnectPerson.vue'
import ConnectionTable from './ConnectionTable.vue'
import { isTroubled, useConnections } from './queries'

/** What only time changes, such as that somebody is behind. */
const EVERY_MILLIS = 30_000
const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useConnections()
const narrowed = reactive({ find: '', state: '', team: '', trouble: '' })
useInAddress(narrowed)
const { find, state, team } = toRefs(narrowed)
/** What is created in Jandrel stands in nobody's mailbox. */
const all = computed(() => data.value?.filter((c) => c.kind !== 'here'))
const states = useStates(() => all.value)
const teams = computed(() => [
  { value: '', title: 'All teams' },
  ...[...new Set(all.value?.map((c) => c.team).filter(Boolean))].sort().map((t) => ({ value: t, title: t })),
])
const picked = ref<string[]>([])
const chosen = computed(() => shown.value.filter((c) => picked.value.includes(c.id)))
const onlyTroubled = computed({
  get: () => narrowed.trouble === 'yes',
  set: (on) => (narrowed.trouble = on ? 'yes' : ''),
})
const troubled = computed(() => all.value?.filter(isTroubled) ?? [])
const shown = computed(() =>
  (onlyTroubled.value ? troubled.value : (all.value ?? [])).filter(
    (c) =>
      (!state.value || c.state === state.value) &&
      (!team.value || c.team === team.value) &&
      `${c.personName} ${c.account} ${c.server} ${c.team}`
        .toLowerCase()
        .includes(find.value.trim().toLowerCase()),
  ),
)
let timer: ReturnType<typeof setInterval> | undefined
onMounted(() => (timer = setInterval(() => void refetch(), EVERY_MILLIS)))
onBeforeUnmount(() => clearInterval(timer))
</script>

<template>
  <div class="page">
    <header>
      <h1>Connections</h1>
      <span class="quiet">connected mailboxes, calendars and address books, and how each is doing</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="person, account or server" does="Find a person or account" />
      <ViewTabs v-model="state" :views="states" label="State" />
      <v-select v-if="teams.length > 2" v-model="team" class="team" :items="teams" label="Team" />
      <v-checkbox
        v-if="troubled.length || onlyTroubled"
        v-model="onlyTroubled"
        :label="`Only those that need attention (${troubled.length})`"
      />
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'connection') : '…' }}</span>
    </div>
    <PickedBar v-if="chosen.length" :what="many(chosen.length, 'connection')" @none="picked = []">
      <ActButtons :connections="chosen" @done="picked = []" />
    </PickedBar>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="all?.length ? 'Nobody fits' : 'Nobody is connected yet'"
          :todo="all?.length ? 'Take a filter away.' : 'Connect the first person on the right.'"
          @again="refetch()"
        />
        <ConnectionTable v-else v-model:picked="picked" :connections="shown" />
      </div>
      <ConnectPerson v-if="isAdministrator" class="pane detail connect" />
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.team {
  flex: 0 0 150px;
}
.connect {
  flex: 0 0 230px !important;
}
</style>
