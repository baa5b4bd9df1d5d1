<script setup lang="ts">
import { computed } from 'vue'
import type { Mark } from './queries'

/** A text in which what was looked for is marked. */
const props = defineProps<{ text: string; marks?: Mark[] }>()
const parts = computed(() => {
  const parts: { text: string; marked: boolean }[] = []
  let at = 0
  for (const mark of props.marks ?? []) {
    parts.push({ text: props.text.slice(at, mark.from), marked: false })
    at = mark.from + mark.length
    parts.push({ text: props.text.slice(mark.from, at), marked: true })
  }
  parts.push({ text: props.text.slice(at), marked: false })
  return parts.filter((p) => p.text)
})
</script>

<template>
  <template v-for="(p, i) in parts" :key="i"
    ><mark v-if="p.marked">{{ p.text }}</mark
    ><template v-else>{{ p.text }}</template></template
  >
</template>
