<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, toRefs } from 'vue'
import { useRoute } from 'vue-router'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import ConnectPerson from './ConnectPerson.vue'
import ConnectionTable from './ConnectionTable.vue'
import { useConnections } from './queries'

/** What only time changes, such as that somebody is behind. */
const EVERY_MILLIS = 30_000
const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useConnections()
const narrowed = reactive({ find: '', trouble: '' })
useInAddress(narrowed)
const { find } = toRefs(narrowed)
const CONSENTS: Record<string, string> = {
  given: 'Consent given; what came in meanwhile is being caught up with.',
  refused: 'No consent was given; nothing is captured.',
  late: 'That answer came too late, or nobody asked for it; sign in once more.',
  failed: 'The provider did not take it; try once more, or ask an administrator.',
}
const consent = CONSENTS[String(useRoute().query.consent ?? '')] ?? ''
const onlyTroubled = computed({
  get: () => narrowed.trouble === 'yes',
  set: (on) => (narrowed.trouble = on ? 'yes' : ''),
})
const troubled = computed(() => data.value?.filter((c) => c.detail) ?? [])
const shown = computed(() =>
  (onlyTroubled.value ? troubled.value : (data.value ?? [])).filter((c) =>
    (c.personName + ' ' + c.account).toLowerCase().includes(find.value.trim().toLowerCase()),
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
      <span class="quiet">connected mailboxes and calendars, and how each is doing</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="person or account" does="Find a person or account" />
      <v-checkbox
        v-if="troubled.length || onlyTroubled"
        v-model="onlyTroubled"
        :label="`Only those that need attention (${troubled.length})`"
      />
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'connection') : '…' }}</span>
      <span v-if="consent" role="status"
        ><b>{{ consent }}</b></span
      >
    </div>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="data?.length ? 'Nobody fits' : 'Nobody is connected yet'"
          :todo="data?.length ? 'Shorten what you look for.' : 'Connect the first person on the right.'"
          @again="refetch()"
        />
        <ConnectionTable v-else :connections="shown" />
      </div>
      <ConnectPerson v-if="isAdministrator" class="pane detail connect" />
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.connect {
  flex: 0 0 250px !important;
}
</style>
