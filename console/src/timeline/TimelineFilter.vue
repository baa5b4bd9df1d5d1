<script setup lang="ts">
import { mdiFilterVariant } from '@mdi/js'
import { computed } from 'vue'
import DateField from '../kernel/DateField.vue'
import FindField from '../kernel/FindField.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import PersonField from '../people/PersonField.vue'
import { everything, type TimelineWanted } from './queries'

/** What of the timeline is shown. */
const wanted = defineModel<TimelineWanted>({ required: true })
const KINDS = [
  { value: '', title: 'all' },
  { value: 'mail', title: 'mail' },
  { value: 'meeting', title: 'meetings' },
  { value: 'call', title: 'calls' },
  { value: 'follow-up', title: 'follow-ups' },
]
const DIRECTIONS = [
  { title: 'Either', value: '' },
  { title: 'Received', value: 'in' },
  { title: 'Sent', value: 'out' },
]
const EVIDENCE = [
  { title: 'Anything', value: '' },
  { title: 'An address', value: 'address' },
  { title: 'Another address of theirs', value: 'other_address' },
  { title: 'Their domain', value: 'domain' },
  { title: 'A contact of it', value: 'contact' },
  { title: 'Attendance', value: 'attendance' },
  { title: 'Taking part in it', value: 'takes_part' },
  { title: 'The only open one', value: 'only_open' },
  { title: 'A part of it', value: 'part' },
  { title: 'A pin', value: 'ruling' },
]
const attached = computed({
  get: () => wanted.value.attached === 'yes',
  set: (on) => (wanted.value.attached = on ? 'yes' : ''),
})
const folded = computed({
  get: () => wanted.value.flat !== 'yes',
  set: (on) => (wanted.value.flat = on ? '' : 'yes'),
})
/** How many of those in the menu narrow the list. */
const more = computed(
  () =>
    [
      wanted.value.direction,
      wanted.value.person,
      wanted.value.evidence,
      wanted.value.from,
      wanted.value.until,
      wanted.value.attached,
    ].filter(Boolean).length,
)
const isNarrowed = computed(() => more.value > 0 || !!wanted.value.who || !!wanted.value.kind)
</script>

<template>
  <div class="filter" role="group" aria-label="Filter">
    <ViewTabs v-model="wanted.kind" :views="KINDS" label="Kind" />
    <FindField
      v-model="wanted.who"
      label="With"
      placeholder="name or address"
      keys="w"
      does="Filter by who takes part"
    />
    <v-menu :close-on-content-click="false" location="bottom end" role="dialog" aria-label="Filters">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" variant="outlined" class="filters" :prepend-icon="mdiFilterVariant"
          >Filters<span v-if="more">&nbsp;({{ more }})</span></v-btn
        >
      </template>
      <v-card class="pa-4 fields" width="380">
        <v-select v-model="wanted.direction" label="Direction" :items="DIRECTIONS" />
        <PersonField v-model="wanted.person" nobody="Anybody" label="Person" />
        <v-select v-model="wanted.evidence" label="On this timeline by" :items="EVIDENCE" />
        <div class="two">
          <DateField v-model="wanted.from" label="From" clearable />
          <DateField v-model="wanted.until" label="Until" clearable />
        </div>
        <v-checkbox v-model="attached" label="With attachments" />
        <v-checkbox v-model="folded" label="Fold conversations to their newest message" />
      </v-card>
    </v-menu>
    <text-btn v-if="isNarrowed" @click="Object.assign(wanted, { ...everything, flat: wanted.flat })"
      >Show all</text-btn
    >
  </div>
</template>

<style scoped>
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding: 2px 20px 8px;
}
.filter :deep(.find) {
  flex: 1 1 150px;
  max-width: 220px;
}
.fields {
  display: grid;
  gap: 10px;
}
.filters {
  border-color: var(--line);
}
</style>
