<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { dayOf } from '../kernel/times'
import { useList } from '../kernel/useList'
import ActivityLine from './ActivityLine.vue'
import type { useTimeline } from './queries'

const props = defineProps<{
  asked: ReturnType<typeof useTimeline>
  opened: string
  empty: string
  todo: string
}>()
defineEmits<{ open: [id: string] }>()
const { data, error, asyncStatus, isPlaceholderData, hasNextPage, loadNextPage, refetch } = props.asked
const activities = computed(() => data.value?.pages.flatMap((p) => p.activities) ?? [])
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
const now = Date.now()

/** What stands between two days, and between what is to come and what was. */
function heading(i: number): string {
  const a = activities.value[i]
  const before = activities.value[i - 1]
  if (!a) return ''
  const today = dayOf(a.at, a.allDay)
  return !before || dayOf(before.at, before.allDay) !== today ? today : ''
}
function isFirstPast(i: number): boolean {
  const a = activities.value[i]
  const before = activities.value[i - 1]
  return !!a && !!before && new Date(a.at).getTime() <= now && new Date(before.at).getTime() > now
}
</script>

<template>
  <StateNote
    v-if="error || !activities.length"
    :error="error"
    :loading="asyncStatus === 'loading'"
    :empty="empty"
    :todo="todo"
    @again="refetch()"
  />
  <div
    v-else
    ref="list"
    role="list"
    aria-label="Activities"
    :class="{ stale: isPlaceholderData }"
    :aria-busy="isPlaceholderData"
    @keydown="move"
  >
    <template v-for="(a, i) in activities" :key="a.id">
      <div v-if="isFirstPast(i)" class="now" role="separator"><span>now</span></div>
      <h2 v-if="heading(i)" class="day">{{ heading(i) }}</h2>
      <ActivityLine
        :activity="a"
        :picked="a.id === opened"
        :tabindex="i === current ? 0 : -1"
        @open="((current = i), $emit('open', a.id))"
      />
    </template>
    <div v-if="hasNextPage" class="more">
      <v-btn size="small" variant="tonal" :loading="asyncStatus === 'loading'" @click="loadNextPage()"
        >Older</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.day {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--ground);
  padding: 9px 20px 3px;
  font-size: 12.5px;
  color: var(--quiet);
  border-bottom: 1px solid var(--line);
}
.now {
  margin: 8px 20px 0;
  border-top: 2px solid var(--accent);
  font-size: 12px;
  color: var(--accent);
}
</style>
