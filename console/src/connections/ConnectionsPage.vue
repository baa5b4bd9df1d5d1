<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, reactive, toRefs } from 'vue'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import ConnectPerson from './ConnectPerson.vue'
import ConnectionTable from './ConnectionTable.vue'
import { isTroubled, useConnections } from './queries'

/** What only time changes, such as that somebody is behind. */
const EVERY_MILLIS = 30_000
const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useConnections()
const narrowed = reactive({ find: '', trouble: '' })
useInAddress(narrowed)
const { find } = toRefs(narrowed)
const onlyTroubled = computed({
  get: () => narrowed.trouble === 'yes',
  set: (on) => (narrowed.trouble = on ? 'yes' : ''),
})
const troubled = computed(() => data.value?.filter(isTroubled) ?? [])
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
  flex: 0 0 230px !important;
}
</style>
