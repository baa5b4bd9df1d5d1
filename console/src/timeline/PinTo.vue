<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { ref } from 'vue'
import { answered, api } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'
import { tell } from '../kernel/snackbar'
import RecordField from './RecordField.vue'

/** Ties an item to a record by somebody's own choice, which the machine never takes away. */
const props = defineProps<{ item: string; pinned: { id: string; name: string }[] }>()
const record = ref<{ id: string; name: string } | null>(null)
const askAgain = useAskAgain()
async function changed() {
  record.value = null
  const all = () => askAgain('activity', 'timeline', 'decisions', 'decision', 'records', 'record', 'triage')
  await all()
  // it is decided again in the background
  setTimeout(() => void all(), 1_500)
}
interface Pin {
  item: string
  id: string
}
const pin = useMutation({
  mutation: ({ item, id }: Pin) =>
    answered(api.POST('/api/items/{item}/pins', { params: { path: { item } }, body: { record: id } })),
  onSuccess: changed,
})
const unpin = useMutation({
  mutation: ({ item, id }: Pin) =>
    answered(api.DELETE('/api/items/{item}/pins/{record}', { params: { path: { item, record: id } } })),
  onSuccess: changed,
})
function tie() {
  const to = record.value
  if (!to) return
  const wanted = { item: props.item, id: to.id }
  pin.mutateAsync(wanted).then(
    () => tell(`Pinned to ${to.name}`, () => unpin.mutateAsync(wanted)),
    () => undefined,
  )
}
function untie(from: { id: string; name: string }) {
  const wanted = { item: props.item, id: from.id }
  unpin.mutateAsync(wanted).then(
    () => tell(`Unpinned from ${from.name}`, () => pin.mutateAsync(wanted)),
    () => undefined,
  )
}
</script>

<template>
  <form class="pin" @submit.prevent="tie">
    <RecordField v-model="record" label="Pin to another record" />
    <v-btn size="small" variant="tonal" type="submit" :disabled="!record" :loading="pin.isLoading.value"
      >Pin</v-btn
    >
    <text-btn v-for="p in pinned" :key="p.id" @click="untie(p)">Unpin from {{ p.name }}</text-btn>
  </form>
  <StateNote
    v-if="pin.error.value || unpin.error.value"
    :error="pin.error.value ?? unpin.error.value"
    @again="(pin.reset(), unpin.reset())"
  />
</template>

<style scoped>
.pin {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding-top: 10px;
}
.pin > :first-child {
  flex: 1 1 180px;
}
</style>
