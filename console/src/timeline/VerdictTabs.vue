<script setup lang="ts">
import { computed } from 'vue'
import VerdictMark from '../kernel/VerdictMark.vue'
import { useSummary } from './decisionQueries'

/** The verdicts with their numbers; choosing one narrows the list to it. */
const chosen = defineModel<string>({ required: true })
const { data } = useSummary()
const tabs = computed(() => {
  const s = data.value
  return [
    { verdict: '', n: s?.decisions },
    { verdict: 'logged', n: s?.logged },
    { verdict: 'waiting', n: s?.waiting },
    { verdict: 'left-out', n: s?.leftOut },
    { verdict: 'unreadable', n: s?.unreadable },
  ]
})
</script>

<template>
  <div class="bar" role="radiogroup" aria-label="Verdict">
    <button
      v-for="t in tabs"
      :key="t.verdict"
      role="radio"
      :aria-checked="chosen === t.verdict"
      :class="['tab', { on: chosen === t.verdict }]"
      @click="chosen = t.verdict"
    >
      <VerdictMark v-if="t.verdict" :verdict="t.verdict" /><b v-else>all</b>
      <span class="n">{{ t.n?.toLocaleString('en-GB') ?? '…' }}</span>
    </button>
    <span v-if="data && data.reconsidering + data.refetching > 0" class="quiet" role="status">
      {{ data.reconsidering.toLocaleString('en-GB') }} being decided again,
      {{ data.refetching.toLocaleString('en-GB') }} being fetched again
    </span>
  </div>
</template>

<style scoped>
.tab {
  display: inline-flex;
  gap: 8px;
  align-items: baseline;
  padding: 4px 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.tab.on {
  background: var(--picked);
  border-color: var(--accent);
}
.n {
  color: var(--quiet);
}
</style>
