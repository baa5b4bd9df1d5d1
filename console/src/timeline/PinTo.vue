<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed, ref } from 'vue'
import { answered, api } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { useRecords } from './queries'
import { useAskAgain } from '../kernel/askAgain'

/** Ties an item to a record by somebody's own choice, which the machine never takes away. */
const props = defineProps<{ item: string; pinned: { id: string; name: string }[] }>()
const words = ref('')
const { data } = useRecords(refDebounced(words, 150), '')
const record = computed(() => data.value?.records.find((r) => shown(r) === words.value) ?? null)
const shown = (r: { name: string; kind: string }) => `${r.name} (${r.kind})`
const askAgain = useAskAgain()
async function changed() {
  words.value = ''
  const all = () => askAgain('activity', 'timeline', 'decisions', 'decision', 'records', 'record', 'triage')
  await all()
  // it is decided again in the background
  setTimeout(() => void all(), 1_500)
}
const pin = useMutation({
  mutation: (id: string) =>
    answered(
      api.POST('/api/items/{item}/pins', { params: { path: { item: props.item } }, body: { record: id } }),
    ),
  onSuccess: changed,
})
const unpin = useMutation({
  mutation: (id: string) =>
    answered(
      api.DELETE('/api/items/{item}/pins/{record}', { params: { path: { item: props.item, record: id } } }),
    ),
  onSuccess: changed,
})
</script>

<template>
  <form class="pin" @submit.prevent="record && pin.mutate(record.id)">
    <input
      v-model="words"
      list="pin-records"
      aria-label="Record to pin it to"
      placeholder="pin to another record"
    />
    <datalist id="pin-records">
      <option v-for="r in data?.records ?? []" :key="r.id" :value="shown(r)" />
    </datalist>
    <v-btn size="small" variant="tonal" type="submit" :disabled="!record" :loading="pin.isLoading.value"
      >Pin</v-btn
    >
    <button v-for="p in pinned" :key="p.id" type="button" class="linkish" @click="unpin.mutate(p.id)">
      Unpin from {{ p.name }}
    </button>
  </form>
  <StateNote v-if="pin.error.value" :error="pin.error.value" @again="pin.reset()" />
</template>

<style scoped>
.pin {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  padding-top: 8px;
}
input {
  flex: 1 1 180px;
  padding: 3px 8px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper, transparent);
  color: inherit;
}
</style>
