<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { refDebounced } from '../kernel/refDebounced'
import { useRecordsFor } from './queries'

/** A record, found by typing a part of its name. */
interface Found {
  id: string
  name: string
  kind?: string
  accountName?: string
}
const FEW = 12
const props = defineProps<{
  label: string
  /** Only records of this kind. */
  kind?: string
  required?: boolean
  placeholder?: string
  /** Offered before anything is typed. */
  offered?: readonly Found[]
}>()
const record = defineModel<Found | null>({ required: true })
const typed = ref('')
const settled = refDebounced(typed, 150)
const { data, asyncStatus } = useRecordsFor(
  () => (settled.value === record.value?.name ? '' : settled.value),
  FEW,
  true,
  () => props.kind ?? '',
)
const items = computed<Found[]>(() => {
  const found: readonly Found[] = settled.value.trim() ? (data.value?.records ?? []) : (props.offered ?? [])
  const own = record.value
  return own && !found.some((r) => r.id === own.id) ? [own, ...found] : [...found]
})
watch(record, (now) => {
  if (!now) typed.value = ''
})
function about(r: Found): string {
  return [r.kind, r.accountName].filter(Boolean).join(', ')
}
</script>

<template>
  <v-autocomplete
    v-model="record"
    v-model:search="typed"
    :items="items"
    :label="label"
    :required="required"
    :placeholder="placeholder ?? 'part of a name'"
    :loading="asyncStatus === 'loading' && settled !== '' ? 'primary' : false"
    :no-data-text="settled.trim() ? 'No record has that in its name' : 'Type a part of its name'"
    item-title="name"
    item-value="id"
    return-object
    no-filter
    clearable
    auto-select-first
    persistent-placeholder
  >
    <template #item="{ props: item, item: found }">
      <v-list-item v-bind="item" :subtitle="about(found as unknown as Found)" />
    </template>
  </v-autocomplete>
</template>
