<script setup lang="ts">
import { computed } from 'vue'
import DateField from '../kernel/DateField.vue'
import PersonField from '../people/PersonField.vue'
import RecordField from '../timeline/RecordField.vue'
import { usePeople } from '../people/queries'
import { useRecord } from '../timeline/queries'
import { useStages } from '../directory/queries'
import type { Schemas } from '../api/client'
import { isOfCapture, titleOf } from './figures'
import type { MeasureSheet, Narrowed } from './queries'

/** What figures are of. What a measure cannot be narrowed to is not offered. */
const at = defineModel<Narrowed>({ required: true })
const props = defineProps<{ info: Schemas['MeasureInfo'] | undefined; sheet: MeasureSheet | undefined }>()
const { data: people } = usePeople()
const { data: stages } = useStages()
const { data: record } = useRecord(() => at.value.account)
const name = computed(() => props.info?.name ?? '')
const teams = computed(() => [
  { value: '', title: 'All teams' },
  ...[...new Set((people.value ?? []).map((p) => p.team).filter(Boolean))]
    .sort()
    .map((t) => ({ value: t, title: t })),
])
const channels = computed(() => [
  { value: '', title: 'All channels' },
  ...(stages.value?.channels ?? []).map((c) => ({ value: c, title: c })),
  { value: '-', title: 'No channel' },
])
const hasChannels = computed(() => props.info?.by.includes('channel') || name.value === 'stages')
const account = computed({
  get: () => (at.value.account && record.value ? record.value : null),
  set: (found: { id: string } | null) => put('account', found?.id ?? ''),
})
function put(field: keyof Narrowed, value: string) {
  at.value = { ...at.value, [field]: value }
}
</script>

<template>
  <div class="bar">
    <v-select
      v-if="(info?.by.length ?? 0) > 1"
      class="narrow"
      :model-value="at.by || info?.by[0]"
      :items="info?.by.map((b) => ({ value: b, title: titleOf(b) }))"
      label="A line for each"
      @update:model-value="put('by', $event === info?.by[0] ? '' : $event)"
    />
    <DateField
      v-if="name !== 'last-touch'"
      :model-value="at.from || (sheet?.from ?? '')"
      class="day"
      label="From"
      required
      @update:model-value="put('from', $event)"
    />
    <DateField
      v-if="name !== 'last-touch'"
      :model-value="at.until || (sheet?.until ?? '')"
      class="day"
      label="Until"
      required
      @update:model-value="put('until', $event)"
    />
    <v-select
      v-if="teams.length > 2"
      class="narrow"
      :model-value="at.team"
      :items="teams"
      label="Team"
      @update:model-value="put('team', $event)"
    />
    <PersonField
      class="narrow"
      :model-value="at.owner"
      nobody="Everybody"
      :label="isOfCapture(name) ? 'Person' : 'Owner'"
      @update:model-value="put('owner', $event)"
    />
    <RecordField
      v-if="!isOfCapture(name)"
      v-model="account"
      class="narrow"
      kind="account"
      label="Account"
      placeholder="All"
    />
    <v-select
      v-if="channels.length > 2 && hasChannels"
      class="narrow"
      :model-value="at.channel"
      :items="channels"
      label="Channel"
      @update:model-value="put('channel', $event)"
    />
  </div>
</template>

<style scoped>
.narrow {
  flex: 1 1 118px;
  min-width: 118px;
  max-width: 180px;
}
.day {
  flex: 1 1 138px;
  max-width: 150px;
}
</style>
