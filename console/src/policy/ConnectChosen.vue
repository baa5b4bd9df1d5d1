<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import ActButtons from '../connections/ActButtons.vue'
import { useConnections, useEveryone, useServers } from '../connections/queries'
import PickedBar from '../kernel/PickedBar.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { many } from '../kernel/times'

/** Connects several people at once, or does something to what they have connected. */
const props = defineProps<{ chosen: Schemas['CoverageInfo'][] }>()
const emit = defineEmits<{ done: [] }>()
const { data: servers } = useServers()
const { data: connections } = useConnections()
const { mutateAsync: connect, asyncStatus } = useEveryone()
const forAll = computed(
  () => servers.value?.filter((s) => s.signIn.startsWith('organisation-')).map((s) => s.name) ?? [],
)
const server = ref<string>()
const at = computed(() => server.value ?? forAll.value[0])
const theirs = computed(() => {
  const ids = new Set(props.chosen.map((p) => p.id))
  return connections.value?.filter((c) => ids.has(c.person) && c.kind !== 'here') ?? []
})

async function connectThem() {
  if (!at.value) return
  await connect({ server: at.value, people: props.chosen.map((p) => p.id) }).then((done) => {
    const left = done.skipped.length ? `; left: ${done.skipped.join(', ')}` : ''
    tell(`${many(done.connected, 'person', 'people')} connected, ${done.known} were already${left}`)
    emit('done')
  }, tellRefused)
}
</script>

<template>
  <PickedBar :what="many(chosen.length, 'person', 'people')" @none="emit('done')">
    <template v-if="at">
      <v-select
        v-if="forAll.length > 1"
        :model-value="at"
        class="field"
        label="Server"
        :items="forAll"
        @update:model-value="server = $event"
      />
      <v-btn size="small" variant="tonal" :loading="asyncStatus === 'loading'" @click="connectThem"
        >Connect at {{ at }}</v-btn
      >
    </template>
    <ActButtons :connections="theirs" @done="emit('done')" />
    <span v-if="!at && !theirs.length" class="quiet"
      >Each connects their own under “Your mailbox”; no server has a sign-in for all.</span
    >
  </PickedBar>
</template>

<style scoped>
.field {
  flex: 0 1 190px;
}
</style>
