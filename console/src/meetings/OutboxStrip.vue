<script setup lang="ts">
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import { useOutbox } from './instep'

/** What waits to go out, and since when; nothing where all of it went. */
const { data } = useOutbox()
const WORDS: Record<string, string> = {
  calendar: 'calendar write',
  invitation: 'letter to guests',
  keyword: 'mailbox keyword',
  notice: 'notice',
}
const waiting = computed(() => data.value?.filter((k) => k.waiting > 0) ?? [])
function words(kind: string, n: number): string {
  if (kind === 'invitation' && n !== 1) return `${n} letters to guests`
  return many(n, WORDS[kind] ?? kind)
}
</script>

<template>
  <p v-if="data" class="outbox quiet">
    <template v-if="!waiting.length">Nothing waits to go out.</template>
    <template v-else
      >Waiting to go out:
      <span v-for="(k, i) in waiting" :key="k.kind"
        ><template v-if="i">; </template>{{ words(k.kind, k.waiting)
        }}<template v-if="k.oldest">, the oldest from <WhenAt :at="k.oldest" only="distance" /></template
        ><span v-if="k.failing" class="warn">, {{ k.failing }} failing, tried again</span></span
      >.</template
    >
  </p>
</template>

<style scoped>
.outbox {
  padding: 0 20px 8px;
}
.warn {
  color: rgb(var(--v-theme-error));
}
</style>
