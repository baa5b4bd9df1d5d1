<script setup lang="ts">
import { computed, reactive } from 'vue'
import { useInAddress } from '../kernel/useInAddress'
import ViewTabs from '../kernel/ViewTabs.vue'
import { many } from '../kernel/times'
import ActivityList from './ActivityList.vue'
import SearchHelp from './SearchHelp.vue'
import { useSearch } from './queries'

const props = defineProps<{ words: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const wanted = reactive({ order: '' })
useInAddress(wanted)
const ORDERS = [
  { value: '', title: 'newest first' },
  { value: 'best', title: 'best first' },
]
const asked = useSearch(
  () => props.words,
  () => wanted.order || 'newest',
)
const said = computed(() => {
  const first = asked.data.value?.pages[0]
  if (asked.error.value) return ''
  if (!first || asked.isPlaceholderData.value) return '…'
  if (!first.total) return ''
  return `${first.orMore ? 'more than ' : ''}${many(first.total, 'activity', 'activities')} that you read in full`
})
</script>

<template>
  <header class="found">
    <h1 class="clip">Found: {{ words }}</h1>
    <span class="quiet" aria-live="polite">{{ said }}</span>
    <ViewTabs v-model="wanted.order" :views="ORDERS" label="Order" />
    <SearchHelp />
  </header>
  <p v-if="asked.data.value?.pages[0]?.catchingUp" class="quiet late" role="status">
    Some of what was captured lately cannot be found yet.
  </p>
  <ActivityList
    :key="wanted.order"
    :asked="asked"
    :opened="opened"
    :ranked="wanted.order === 'best'"
    empty="Nothing fits"
    todo="Every word has to be in the subject, the new text, the names of attachments or the participants. Take one away, or try its beginning, such as buo*."
    @open="$emit('open', $event)"
  />
</template>

<style scoped>
.found {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 6px 14px;
  padding: 14px 20px 10px;
}
.found h1 {
  flex: 0 1 auto;
  max-width: 100%;
}
.late {
  padding: 0 20px 8px;
}
</style>
