<script setup lang="ts">
import { useInfiniteQuery, useMutation } from '@pinia/colada'
import { computed, reactive } from 'vue'
import { answered, api } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import JournalTable from './JournalTable.vue'

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
  'background',
]
const narrowed = reactive({ who: '', kind: '', from: '', until: '' })

function at(day: string, later = 0): string | undefined {
  if (!day) return undefined
  const date = new Date(`${day}T00:00`)
  date.setDate(date.getDate() + later)
  return date.toISOString()
}
const { data, error, asyncStatus, isPlaceholderData, refetch, loadNextPage, hasNextPage } = useInfiniteQuery({
  key: () => ['journal', { ...narrowed }],
  query: ({ pageParam, signal }) =>
    answered(
      api.GET('/api/journal', {
        params: {
          query: {
            who: narrowed.who.trim() || undefined,
            kind: narrowed.kind || undefined,
            from: at(narrowed.from),
            until: at(narrowed.until, 1),
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
const verify = useMutation({ mutation: () => answered(api.GET('/api/journal/verify')) })
const verified = computed(() => {
  const v = verify.data.value
  if (!v) return ''
  return v.broken
    ? `Entry ${v.broken} does not fit: ${v.why}.`
    : `All ${many(v.entries, 'entry', 'entries')} fit; the last hash is ${v.head.slice(0, 16)}…`
})
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
      <label class="field"
        >who<input v-model.lazy="narrowed.who" type="search" placeholder="login, or service"
      /></label>
      <label class="field"
        >what<select v-model="narrowed.kind">
          <option value="">everything</option>
          <option v-for="k in KINDS" :key="k">{{ k }}</option>
        </select></label
      >
      <label class="field">from<input v-model="narrowed.from" type="date" /></label>
      <label class="field">until<input v-model="narrowed.until" type="date" /></label>
      <span class="quiet" aria-live="polite">{{ data ? many(total, 'entry', 'entries') : '…' }}</span>
      <v-btn
        size="small"
        variant="tonal"
        :loading="verify.asyncStatus.value === 'loading'"
        @click="verify.mutate()"
        >Verify the chain</v-btn
      >
      <a href="/api/journal.ndjson" download>Export</a>
      <span v-if="verified" role="status" :class="{ bad: verify.data.value?.broken }">{{ verified }}</span>
    </div>
    <div class="panes">
      <div class="pane list" :class="{ stale: isPlaceholderData }" :aria-busy="isPlaceholderData">
        <StateNote
          v-if="error || !entries.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          empty="No entry fits"
          todo="Widen it."
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
.bad {
  color: rgb(var(--v-theme-error));
  font-weight: 600;
}
a {
  color: inherit;
}
</style>
