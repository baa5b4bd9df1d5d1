<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiClose } from '@mdi/js'

/** Of a row in a list that somebody puts in order: up, down, and out. */
const props = defineProps<{ name: string; at: number; of: number }>()
const emit = defineEmits<{ swap: [withRow: number]; remove: [] }>()
const BUTTONS = [
  { icon: mdiArrowUp, does: 'up', by: -1, never: () => props.at === 0 },
  { icon: mdiArrowDown, does: 'down', by: 1, never: () => props.at === props.of - 1 },
]
</script>

<template>
  <span class="d-flex ga-1">
    <v-btn
      v-for="b in BUTTONS"
      :key="b.does"
      :icon="b.icon"
      size="x-small"
      variant="text"
      :disabled="b.never()"
      :aria-label="`Move ${name} ${b.does}`"
      @click="emit('swap', at + b.by)"
    />
    <v-btn
      :icon="mdiClose"
      size="x-small"
      variant="text"
      :aria-label="`Remove ${name}`"
      @click="emit('remove')"
    />
  </span>
</template>
