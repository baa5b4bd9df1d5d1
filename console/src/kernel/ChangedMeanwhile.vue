<script setup lang="ts" generic="T extends Fields">
import type { Fields, News } from './useEdited'

/** What somebody else has changed in fields that are being typed in here; it is taken only when asked for. */
const props = defineProps<{
  news: News<T>[]
  names: Record<keyof T & string, string>
  written?: (field: keyof T & string, value: T[keyof T]) => string
}>()
function says(n: News<T>): string {
  return props.written?.(n.field, n.now) ?? String(n.now)
}
</script>

<template>
  <p v-for="n in news" :key="n.field" class="news" role="status">
    Changed meanwhile: {{ names[n.field] }} is now “{{ says(n) }}”.
    <text-btn @click="n.take()">Use that</text-btn>
  </p>
</template>

<style scoped>
.news {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
}
</style>
