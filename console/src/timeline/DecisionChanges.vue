<script setup lang="ts">
import VerdictMark from '../kernel/VerdictMark.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useChanges } from './queries'

/** What a decision was before it was made again. */
const props = defineProps<{ id: string }>()
const { data } = useChanges(() => props.id)
</script>

<template>
  <section v-if="data?.length" aria-labelledby="before-title">
    <h2 id="before-title">What it was before</h2>
    <p v-for="(c, i) in data" :key="i">
      <VerdictMark :verdict="c.before" /> until <WhenAt :at="c.at" />, then <VerdictMark :verdict="c.after" />
      <span class="quiet"
        >&nbsp;{{
          [c.why, c.policy && `policy “${c.policy}”, version ${c.version}`].filter(Boolean).join('; ')
        }}
      </span>
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin-top: 18px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
</style>
