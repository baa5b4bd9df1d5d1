<script setup lang="ts">
import ActivityList from './ActivityList.vue'
import { useTimeline } from './queries'

const props = defineProps<{ record: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const asked = useTimeline(() => props.record)
</script>

<template>
  <ActivityList
    :asked="asked"
    :opened="opened"
    empty="Nothing has been logged for this record"
    todo="Mail and meetings appear here as soon as somebody on them is known to belong to it. Decisions says what became of an item."
    @open="$emit('open', $event)"
  />
</template>
