<script setup lang="ts">
import { mdiAlertCircleOutline, mdiCheckCircleOutline } from '@mdi/js'
import type { Schemas } from '../api/client'

/** How far trying a server came, and what to do where it came no further. */
defineProps<{ outcome: Schemas['CheckOutcome'] }>()
</script>

<template>
  <ol class="steps" aria-label="What was tried" aria-live="polite">
    <li v-for="s in outcome.steps" :key="s.step" :class="{ bad: !s.passed }">
      <v-icon
        :icon="s.passed ? mdiCheckCircleOutline : mdiAlertCircleOutline"
        size="16"
        :aria-label="s.passed ? 'passed' : 'failed'"
        role="img"
      />
      <b>{{ s.step }}</b> <span>{{ s.says }}</span>
    </li>
  </ol>
</template>

<style scoped>
.steps {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 4px;
}
li {
  display: grid;
  grid-template-columns: 18px 84px 1fr;
  gap: 6px;
  align-items: start;
}
.bad {
  color: rgb(var(--v-theme-error));
}
</style>
