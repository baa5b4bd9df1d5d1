<script setup lang="ts">
import { computed } from 'vue'
import StateNote from '../shared/StateNote.vue'
import { many } from '../shared/times'
import ActivityList from './ActivityList.vue'
import { useSearch } from './queries'

const props = defineProps<{ words: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const { data, error, asyncStatus, isPlaceholderData, hasNextPage, loadNextPage, refetch } = useSearch(
  () => props.words,
)
const activities = computed(() => data.value?.pages.flatMap((p) => p.activities) ?? [])
const total = computed(() => data.value?.pages[0]?.total ?? 0)
</script>

<template>
  <header class="found">
    <h1>Found</h1>
    <span class="quiet" aria-live="polite">{{
      data ? `${many(total, 'activity', 'activities')} with “${words}”, among those you read in full` : '…'
    }}</span>
  </header>
  <StateNote
    v-if="error || !activities.length"
    :error="error"
    :loading="asyncStatus === 'loading'"
    empty="No activity has that"
    todo="Words of the subject, names and addresses count, every one of them; what a message says does not."
    @again="refetch()"
  />
  <ActivityList
    v-else
    :aria-busy="isPlaceholderData"
    :activities="activities"
    :opened="opened"
    :has-older="hasNextPage"
    :loading="asyncStatus === 'loading'"
    @open="$emit('open', $event)"
    @older="loadNextPage()"
  />
</template>

<style scoped>
.found {
  padding: 14px 20px 10px;
}
</style>
