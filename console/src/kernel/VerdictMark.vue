<script setup lang="ts">
/** A verdict by word and shape first, colour second. */
const props = defineProps<{ verdict: string }>()
const shapes: Record<string, string> = {
  logged: 'M2 6.5l3 3 5-7',
  waiting: 'M6 1.5a4.5 4.5 0 1 0 .01 0M6 3.5V6l2 1.5',
  'left-out': 'M2.5 6h7',
  unreadable: 'M6 1L11.5 10.5H.5zM6 4.5v2.6M6 8.9v.1',
}
</script>

<template>
  <span class="verdict" :style="{ color: `rgb(var(--v-theme-${props.verdict}))` }">
    <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
      <path
        :d="shapes[props.verdict]"
        fill="none"
        stroke="currentColor"
        stroke-width="1.6"
        stroke-linecap="round"
        stroke-linejoin="round"
      />
    </svg>
    {{ props.verdict.replace('-', ' ') }}
  </span>
</template>
