<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useActs, useConnections, useEveryone, useServers, type ManyAct } from '../connections/queries'
import { tell, tellRefused } from '../kernel/snackbar'
import { many } from '../kernel/times'

/** Connects several people at once, or reminds those of them who have to sign in. */
const props = defineProps<{ chosen: Schemas['CoverageInfo'][] }>()
const emit = defineEmits<{ done: [] }>()
const { data: servers } = useServers()
const { data: connections } = useConnections()
const { mutateAsync: connect, asyncStatus: connecting } = useEveryone()
const { mutateAsync: act, asyncStatus: acting } = useActs()
const busy = computed(() => connecting.value === 'loading' || acting.value === 'loading')
const forAll = computed(() => servers.value?.filter((s) => s.signIn.startsWith('organisation-')) ?? [])
const server = ref<string>()
const at = computed(() => server.value ?? forAll.value[0]?.name)
const theirs = computed(() => {
  const ids = new Set(props.chosen.map((p) => p.id))
  return connections.value?.filter((c) => ids.has(c.person)) ?? []
})
const waiting = computed(() =>
  theirs.value.filter((c) => c.state === 'needs-sign-in' || c.state === 'waiting-for-consent'),
)
const paused = computed(() => theirs.value.filter((c) => c.state === 'paused'))

async function connectThem() {
  if (!at.value) return
  await connect({ server: at.value, people: props.chosen.map((p) => p.id) }).then((done) => {
    const left = done.skipped.length ? `; left: ${done.skipped.join(', ')}` : ''
    tell(`${many(done.connected, 'person', 'people')} connected, ${done.known} were already${left}`)
    emit('done')
  }, tellRefused)
}

async function doTo(what: ManyAct, of: Schemas['ConnectionInfo'][], says: string) {
  await act({ connections: of.map((c) => c.id), act: what }).then((outcomes) => {
    const failed = outcomes.filter((o) => o.problem)
    const told = `${many(outcomes.length - failed.length, 'connection')} ${says}`
    tell(failed.length ? `${told}; not ${failed.map((o) => `${o.account} (${o.problem})`).join(', ')}` : told)
    emit('done')
  }, tellRefused)
}
</script>

<template>
  <div class="bulk" role="toolbar" :aria-label="`Act on ${many(chosen.length, 'person', 'people')}`">
    <b>{{ many(chosen.length, 'person', 'people') }}</b>
    <template v-if="forAll.length">
      <v-select
        v-if="forAll.length > 1"
        :model-value="at"
        class="field"
        label="Server"
        :items="forAll.map((s) => s.name)"
        @update:model-value="server = $event"
      />
      <v-btn size="small" variant="tonal" :disabled="busy" @click="connectThem">Connect at {{ at }}</v-btn>
    </template>
    <v-btn
      v-if="paused.length"
      size="small"
      variant="tonal"
      :disabled="busy"
      @click="doTo('resume', paused, 'captured again')"
      >Resume {{ many(paused.length, 'connection') }}</v-btn
    >
    <v-btn
      v-if="waiting.length"
      size="small"
      variant="tonal"
      :disabled="busy"
      @click="doTo('remind', waiting, 'reminded of')"
      >Remind {{ waiting.length }} to sign in</v-btn
    >
    <span v-if="!forAll.length && !paused.length && !waiting.length" class="quiet"
      >Each connects their own under “Your mailbox”; no server has a sign-in for all.</span
    >
    <v-btn size="small" variant="text" @click="emit('done')">Select none</v-btn>
  </div>
</template>

<style scoped>
.bulk {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 8px 20px;
  background: var(--picked);
}
.field {
  flex: 0 1 190px;
}
</style>
