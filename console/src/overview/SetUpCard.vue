<script setup lang="ts">
import { mdiCheckCircleOutline, mdiCircleOutline } from '@mdi/js'
import { computed } from 'vue'
import type { SetUpStep } from './setUp'

/** From an empty installation to the first timeline: each step ticks itself. */
const props = defineProps<{ steps: SetUpStep[] }>()
const next = computed(() => props.steps.find((s) => !s.done && !s.optional)?.key)
const done = computed(() => props.steps.filter((s) => s.done).length)
</script>

<template>
  <v-card class="card" aria-labelledby="set-up-title">
    <div class="head">
      <h2 id="set-up-title">Setting up</h2>
      <span class="quiet">{{ done }} of {{ steps.length }} done</span>
    </div>
    <ol>
      <li v-for="s in steps" :key="s.key" :class="{ next: s.key === next, done: s.done }">
        <v-icon
          :icon="s.done ? mdiCheckCircleOutline : mdiCircleOutline"
          size="18"
          role="img"
          :aria-label="s.done ? 'done' : 'to do'"
        />
        <span class="what"
          ><b>{{ s.what }}</b> <span class="quiet">{{ s.why }}</span></span
        >
        <v-btn
          size="small"
          :color="s.key === next ? 'primary' : undefined"
          :variant="s.key === next ? 'flat' : 'text'"
          :to="s.to"
          >{{ s.action }}</v-btn
        >
      </li>
    </ol>
  </v-card>
</template>

<style scoped>
.card {
  max-width: 860px;
}
ol {
  list-style: none;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding: 7px 0;
}
li + li {
  border-top: 1px solid var(--line);
}
.what {
  display: grid;
}
.what .quiet {
  margin: 0;
  padding: 0;
}
.done b {
  font-weight: 400;
}
</style>
