<script setup lang="ts">
import type { Schemas } from '../api/client'
import VerdictMark from './VerdictMark.vue'

/** One decision's reasons, in the very words the command line prints. */
defineProps<{ decision: Schemas['DecisionInfo'] }>()
</script>

<template>
  <section class="trail">
    <h3>
      <VerdictMark :verdict="decision.verdict" />
      <span class="quiet"> seen in “{{ decision.source }}” of {{ decision.personName }}</span>
      <span v-if="decision.pending" class="quiet"> · being fetched again</span>
    </h3>
    <ol>
      <li v-for="(sentence, i) in decision.trail" :key="i">{{ sentence }}</li>
    </ol>
  </section>
</template>
