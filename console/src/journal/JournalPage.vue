<script setup lang="ts">
import { useInfiniteQuery } from '@pinia/colada'
import { computed, reactive } from 'vue'
import { answered, api } from '../api/client'
import DateField from '../kernel/DateField.vue'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { addDays, instant, wallOf, zone } from '../kernel/wall'
import JournalTable from './JournalTable.vue'
import { useVerify } from './useVerify'

const KINDS = [
  'policy',
  'policies',
  'exclusion',
  'connection',
  'server',
  'person',
  'directory',
  'company',
  'sign-in',
  'host',
  'item',
  'meeting',
  'subscription',
  'source',
  'triage',
  'contact',
  'lead',
  'account',
  'background',
]
const kinds = [{ title: 'Everything', value: '' }, ...KINDS.map((k) => ({ title: k, value: k }))]
const narrowed = reactive({ who: '', kind: '', from: '', until: '' })
useInAddress(narrowed)
const settled = refDebounced(
  computed(() => ({ ...narrowed })),
  200,
)

function at(day: string, later = 0): string | undefined {
  const onWall = wallOf(day)
  return onWall ? instant(addDays(onWall, later)).toISOString() : undefined
}
const { data, error, asyncStatus, isPlaceholderData, refetch, loadNextPage, hasNextPage } = useInfiniteQuery({
  key: () => ['journal', { ...settled.value }, zone()],
  query: ({ pageParam, signal }) =>
    answered(
      api.GET('/api/journal', {
        params: {
          query: {
            who: settled.value.who.trim() || undefined,
            kind: settled.value.kind || undefined,
            from: at(settled.value.from),
            until: at(settled.value.until, 1),
            before: pageParam,
            limit: 100,
          },
        },
        signal,
      }),
    ),
  initialPageParam: 0,
  placeholderData: (before) => before,
  getNextPageParam: (last) => last.next || null,
})
const entries = computed(() => data.value?.pages.flatMap((p) => p.entries) ?? [])
const total = computed(() => data.value?.pages[0]?.total ?? 0)
const verify = useVerify()
</script>

<template>
  <div class="page">
    <header>
      <h1>Journal</h1>
      <span class="quiet"
        >what people changed and what the service ran; each entry carries the hash of the one before</span
      >
    </header>
    <div class="bar">
      <FindField v-model="narrowed.who" label="Who" placeholder="login, or service" does="Filter by who" />
      <v-select v-model="narrowed.kind" label="What" class="kind" :items="kinds" />
      <DateField v-model="narrowed.from" label="From" clearable />
      <DateField v-model="narrowed.until" label="Until" clearable />
      <span class="quiet" aria-live="polite">{{ data ? many(total, 'entry', 'entries') : '…' }}</span>
      <v-btn
        size="small"
        variant="tonal"
        :loading="verify.asyncStatus.value === 'loading'"
        @click="verify.mutate()"
        >Verify the chain</v-btn
      >
      <a href="/api/journal.ndjson" download>Export</a>
      <span v-if="verify.says.value" role="status" :class="{ bad: verify.broken.value }">{{
        verify.says.value
      }}</span>
    </div>
    <div class="panes">
      <div class="pane list" :class="{ stale: isPlaceholderData }" :aria-busy="isPlaceholderData">
        <StateNote
          v-if="error || !entries.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          empty="No entry fits"
          todo="Take a filter away."
          @again="refetch()"
        />
        <template v-else>
          <JournalTable :entries="entries" />
          <div v-if="hasNextPage" class="more">
            <v-btn variant="tonal" :loading="asyncStatus === 'loading'" @click="loadNextPage()"
              >Show more</v-btn
            >
          </div>
        </template>
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.kind {
  flex: 0 0 150px;
}
.bad {
  color: rgb(var(--v-theme-error));
  font-weight: 600;
}
a {
  color: inherit;
}
</style>
