<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import VerdictMark from './VerdictMark.vue'

/** One decision's reasons, in the very words the command line prints. */
const props = defineProps<{ decision: Schemas['DecisionInfo'] }>()

/** Which of somebody's folders or calendars it is, is said to those alone who read the item. */
const where = computed(() => (props.decision.source ? `seen in “${props.decision.source}” of` : 'seen by'))
</script>

<template>
  <section class="trail">
    <h3>
      <VerdictMark :verdict="decision.verdict" />
      <span class="quiet">&nbsp;{{ where }} {{ decision.personName }}</span>
      <span v-if="decision.pending" class="quiet"> · being fetched again</span>
    </h3>
    <ol>
      <li v-for="(sentence, i) in decision.trail" :key="i">{{ sentence }}</li>
    </ol>
  </section>
</template>
