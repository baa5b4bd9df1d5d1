<script setup lang="ts">
import { computed } from 'vue'
import ActivityLine from './ActivityLine.vue'
import { useActivity } from './queries'

/** The earlier messages of a conversation, under its newest. */
const props = defineProps<{ newest: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const { data, error } = useActivity(() => props.newest)
const earlier = computed(() =>
  (data.value?.conversation ?? []).filter((a) => a.id !== props.newest).reverse(),
)
</script>

<template>
  <p v-if="error" class="quiet" role="alert">{{ error.message }}</p>
  <ActivityLine
    v-for="a in earlier"
    :key="a.id"
    nested
    day
    :activity="a"
    :picked="a.id === opened"
    :tabindex="-1"
    @open="$emit('open', a.id)"
  />
</template>
