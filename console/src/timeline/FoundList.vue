<script setup lang="ts">
import { computed } from 'vue'
import { many } from '../kernel/times'
import ActivityList from './ActivityList.vue'
import { useSearch } from './queries'

const props = defineProps<{ words: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const asked = useSearch(() => props.words)
const said = computed(() => {
  const first = asked.data.value?.pages[0]
  return first && !asked.isPlaceholderData.value
    ? `${many(first.total, 'activity', 'activities')} with “${props.words}”, among those you read in full`
    : '…'
})
</script>

<template>
  <header class="found">
    <h1>Found</h1>
    <span class="quiet" aria-live="polite">{{ said }}</span>
  </header>
  <ActivityList
    :asked="asked"
    :opened="opened"
    empty="No activity has that"
    todo="Words of the subject, names and addresses count, every one of them; what a message says does not."
    @open="$emit('open', $event)"
  />
</template>

<style scoped>
.found {
  padding: 14px 20px 10px;
}
</style>
