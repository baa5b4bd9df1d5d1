<script setup lang="ts">
import { clockOf, clockThere, dayOf, distance } from './times'

/** A moment in the reader's zone, the original zone at hand. */
defineProps<{ at: string; allDay?: boolean; zone?: string; only?: 'day' | 'clock' | 'distance' }>()
</script>

<template>
  <time
    :datetime="at"
    :title="`${dayOf(at, allDay)} ${allDay ? 'all day' : clockOf(at)} ${clockThere(at, zone ?? '')}`.trim()"
  >
    <template v-if="only === 'distance'">{{ distance(at) }}</template>
    <template v-else>
      <template v-if="only !== 'clock'">{{ dayOf(at, allDay) }}</template>
      <template v-if="only !== 'day'">{{ only ? '' : ', ' }}{{ allDay ? 'all day' : clockOf(at) }}</template>
    </template>
  </time>
</template>
