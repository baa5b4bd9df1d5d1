<script setup lang="ts">
import { computed } from 'vue'
import StateNote from '../shared/StateNote.vue'
import ActivityList from './ActivityList.vue'
import { useTimeline } from './queries'

const props = defineProps<{ record: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const { data, error, asyncStatus, hasNextPage, loadNextPage, refetch } = useTimeline(() => props.record)
const activities = computed(() => data.value?.pages.flatMap((p) => p.activities) ?? [])
</script>

<template>
  <StateNote
    v-if="error || !activities.length"
    :error="error"
    :loading="asyncStatus === 'loading'"
    empty="Nothing has been logged for this record"
    todo="Mail and meetings appear here as soon as somebody on them is known to belong to it. Decisions says what became of an item."
    @again="refetch()"
  />
  <ActivityList
    v-else
    :activities="activities"
    :opened="opened"
    :has-older="hasNextPage"
    :loading="asyncStatus === 'loading'"
    @open="$emit('open', $event)"
    @older="loadNextPage()"
  />
</template>
