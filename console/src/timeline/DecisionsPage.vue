<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { useOpened } from '../kernel/useOpened'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { refDebounced } from '../kernel/refDebounced'
import { useInAddress } from '../kernel/useInAddress'
import DecisionFilter from './DecisionFilter.vue'
import DecisionPanel from './DecisionPanel.vue'
import DecisionTable from './DecisionTable.vue'
import VerdictTabs from './VerdictTabs.vue'
import { everything, today, useDecision, useDecisions, type Narrowed } from './decisionQueries'

const route = useRoute()
// what is still to come stands first in time, but is not what somebody comes here for
const all = Boolean(route.query.exclusion ?? route.query.policy)
const narrowed = reactive<Narrowed>({ ...everything, until: all ? '' : today() })
useInAddress(narrowed)
const settled = refDebounced(
  computed(() => ({ ...narrowed })),
  200,
)
const { data, error, asyncStatus, isPlaceholderData, hasNextPage, loadNextPage, refetch } =
  useDecisions(settled)
const decisions = computed(() => data.value?.pages.flatMap((p) => p.decisions) ?? [])
const total = ref(0)
const orMore = ref(false)
watch(
  data,
  (now) => {
    if (now) {
      total.value = now.pages[0]?.total ?? 0
      orMore.value = now.pages[0]?.orMore ?? false
    }
  },
  { immediate: true },
)
const opened = useOpened()
const listed = computed(() => decisions.value.find((d) => d.id === opened.value))
const { data: linked } = useDecision(() => (listed.value ? '' : opened.value))
const decision = computed(
  () => listed.value ?? (linked.value?.id === opened.value ? linked.value : undefined),
)
const isNarrowed = computed(() => Object.values(narrowed).some((v) => v !== ''))

useShortcuts([{ keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') }])
</script>

<template>
  <div class="page">
    <header>
      <h1>Decisions</h1>
      <span class="quiet">every item seen at every source, with the decision on it</span>
    </header>
    <VerdictTabs v-model="narrowed.verdict" />
    <DecisionFilter
      :model-value="narrowed"
      :is-narrowed="isNarrowed"
      @clear="Object.assign(narrowed, everything)"
    />
    <div class="panes">
      <div
        class="pane list"
        aria-label="Decisions"
        :class="{ stale: isPlaceholderData }"
        :aria-busy="isPlaceholderData"
      >
        <StateNote
          v-if="error || !decisions.length"
          :error="error"
          :loading="asyncStatus === 'loading'"
          :empty="isNarrowed ? 'No decision fits' : 'Nothing has been seen yet'"
          :todo="
            isNarrowed ? 'Take a filter away.' : 'Connect somebody, and what their sources show stands here.'
          "
          @again="refetch()"
        />
        <template v-else>
          <DecisionTable :decisions="decisions" :opened="opened" @open="opened = $event" />
          <div class="more">
            <span class="quiet" aria-live="polite"
              >{{ decisions.length.toLocaleString('en-GB') }} of {{ orMore ? 'more than ' : ''
              }}{{ many(total, 'decision') }}&ensp;</span
            >
            <v-btn
              v-if="hasNextPage"
              size="small"
              variant="tonal"
              :loading="asyncStatus === 'loading'"
              @click="loadNextPage()"
              >More</v-btn
            >
          </div>
        </template>
      </div>
      <DecisionPanel v-if="decision" :decision="decision" class="pane detail" @close="opened = ''" />
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
</style>
