<script setup lang="ts">
import { computed } from 'vue'
import DateField from '../kernel/DateField.vue'
import FindField from '../kernel/FindField.vue'
import PersonField from '../people/PersonField.vue'
import { useByPolicy, useSummary, type Narrowed } from './decisionQueries'

const narrowed = defineModel<Narrowed>({ required: true })
defineProps<{ isNarrowed: boolean }>()
defineEmits<{ clear: [] }>()
const { data: summary } = useSummary()
const { data: byPolicy } = useByPolicy()
const policies = computed(() => [
  { title: 'Any policy', value: '' },
  ...(byPolicy.value ?? []).map((p) => ({ title: p.name, value: p.policy })),
])
const rules = computed(() => {
  const words = new Map<string, string>()
  summary.value?.counts.forEach((c) => c.rule && words.set(c.rule, c.words))
  const all = [...words].map(([value, title]) => ({ title, value }))
  return [{ title: 'Any reason', value: '' }, ...all.sort((a, b) => a.title.localeCompare(b.title))]
})
const KINDS = [
  { title: 'Mail and meetings', value: '' },
  { title: 'Mail', value: 'mail' },
  { title: 'Meetings', value: 'meeting' },
]
</script>

<template>
  <div class="bar">
    <FindField
      v-model="narrowed.address"
      label="Address or domain"
      placeholder="port.example"
      does="Filter by address or domain"
    />
    <PersonField v-model="narrowed.person" label="Person" class="choice" nobody="Anybody" />
    <v-select
      v-if="policies.length > 2 || narrowed.policy"
      v-model="narrowed.policy"
      label="Policy"
      class="choice"
      :items="policies"
    />
    <v-select v-model="narrowed.kind" label="Kind" class="choice" :items="KINDS" />
    <v-select v-model="narrowed.rule" label="Left out because" class="choice wide" :items="rules" />
    <DateField v-model="narrowed.from" label="From" clearable />
    <DateField v-model="narrowed.until" label="Until" clearable />
    <text-btn v-if="isNarrowed" @click="$emit('clear')">Show all, future too</text-btn>
    <span v-if="narrowed.exclusion" class="quiet">left out by one exclusion</span>
  </div>
</template>

<style scoped>
.choice {
  flex: 0 1 150px;
}
.wide {
  flex-basis: 200px;
}
</style>
