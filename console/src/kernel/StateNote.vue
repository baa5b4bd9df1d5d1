<script setup lang="ts">
import { computed } from 'vue'
import { Refused } from '../api/client'

/** What stands where a list would: that it is loading, that it failed and what to do, or that it is empty and what to do. */
const props = defineProps<{
  loading?: boolean
  error?: Error | null
  empty?: string
  todo?: string
  /** Where nobody hears it, there is no button. */
  onAgain?: () => unknown
}>()
const refused = computed(() => (props.error instanceof Refused ? props.error : null))
</script>

<template>
  <div class="note" :role="error ? 'alert' : 'status'">
    <template v-if="error">
      <strong>{{ error.message }}</strong>
      <p>{{ refused?.todo ?? 'Try again.' }}</p>
      <ul v-if="refused?.problems.length" class="problems">
        <li v-for="(p, i) in refused.problems.slice(0, 50)" :key="i">
          <span v-if="p.line || p.column"
            >{{ [p.line && `line ${p.line}`, p.column].filter(Boolean).join(', ') }}: </span
          >{{ p.reason }}
        </li>
        <li v-if="refused.problems.length > 50">and {{ refused.problems.length - 50 }} more</li>
      </ul>
      <v-btn v-if="onAgain && !refused?.problems.length" size="small" variant="tonal" @click="onAgain"
        >Try again</v-btn
      >
    </template>
    <template v-else-if="loading">
      <span class="quiet">Loading…</span>
    </template>
    <template v-else>
      <strong>{{ empty }}</strong>
      <p v-if="todo">{{ todo }}</p>
    </template>
  </div>
</template>
