<script setup lang="ts">
import { computed } from 'vue'
import VerdictMark from '../kernel/VerdictMark.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { useSummary } from './decisionQueries'

/** The verdicts with their numbers; choosing one narrows the list to it. */
const chosen = defineModel<string>({ required: true })
const { data } = useSummary()
const views = computed(() => {
  const s = data.value
  return [
    { value: '', title: 'all', n: s?.decisions },
    { value: 'logged', title: 'logged', n: s?.logged },
    { value: 'waiting', title: 'waiting', n: s?.waiting },
    { value: 'left-out', title: 'left out', n: s?.leftOut },
    { value: 'unreadable', title: 'unreadable', n: s?.unreadable },
  ]
})
</script>

<template>
  <div class="bar">
    <ViewTabs v-model="chosen" :views="views" label="Verdict">
      <template #default="{ view }">
        <VerdictMark v-if="view.value" :verdict="view.value" /><b v-else>all</b>
      </template>
    </ViewTabs>
    <span v-if="data && data.reconsidering + data.refetching > 0" class="quiet" role="status">
      {{ data.reconsidering.toLocaleString('en-GB') }} being decided again,
      {{ data.refetching.toLocaleString('en-GB') }} being fetched again
    </span>
  </div>
</template>
