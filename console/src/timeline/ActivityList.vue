<script setup lang="ts">
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { headingOf } from '../kernel/times'
import { useList } from '../kernel/useList'
import ActivityLine from './ActivityLine.vue'
import ConversationLines from './ConversationLines.vue'
import type { Activity, Asked } from './queries'

/** Activities, newest first, under their days; more come in as one reads on. */
const props = defineProps<{
  asked: Asked
  opened: string
  empty: string
  todo: string
  /** In another order than that of time: each line says its day. */
  ranked?: boolean
}>()
defineEmits<{ open: [id: string] }>()
const { data, error, asyncStatus, isPlaceholderData, hasNextPage, loadNextPage, refetch } = props.asked
const activities = computed(() => data.value?.pages.flatMap((p) => p.activities) ?? [])
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
const unfolded = ref(new Set<string>())

/** What stands between two days. */
const days = computed(() => {
  let last = ''
  return activities.value.map((a) => {
    const heading = props.ranked ? '' : headingOf(a.at, a.allDay)
    const first = heading !== last
    last = heading
    return first ? heading : ''
  })
})
function unfold(id: string) {
  const all = new Set(unfolded.value)
  if (!all.delete(id)) all.add(id)
  unfolded.value = all
}
function unfoldLabel(a: Activity): string {
  return unfolded.value.has(a.id) ? 'Hide the earlier messages' : `Show ${a.conversation - 1} earlier`
}
function onSight(isSeen: boolean) {
  if (isSeen && hasNextPage.value && asyncStatus.value !== 'loading') void loadNextPage()
}
</script>

<template>
  <StateNote
    v-if="(error && !activities.length) || (!activities.length && !hasNextPage)"
    :error="error"
    :loading="asyncStatus === 'loading'"
    :empty="empty"
    :todo="todo"
    @again="refetch()"
  />
  <div
    v-else
    ref="list"
    role="group"
    aria-label="Activities"
    :class="{ stale: isPlaceholderData }"
    :aria-busy="isPlaceholderData"
    @keydown="move"
  >
    <template v-for="(a, i) in activities" :key="a.id">
      <h2 v-if="days[i]" class="day">{{ days[i] }}</h2>
      <div class="item">
        <ActivityLine
          :activity="a"
          :picked="a.id === opened"
          :tabindex="i === current ? 0 : -1"
          :day="ranked"
          @open="((current = i), $emit('open', a.id))"
          @keydown.right="a.conversation > 1 && !unfolded.has(a.id) && unfold(a.id)"
          @keydown.left="unfolded.has(a.id) && unfold(a.id)"
        />
        <v-btn
          v-if="a.conversation > 1"
          class="unfold"
          size="x-small"
          variant="text"
          :icon="unfolded.has(a.id) ? mdiChevronUp : mdiChevronDown"
          :aria-expanded="unfolded.has(a.id)"
          :aria-label="unfoldLabel(a)"
          :title="unfoldLabel(a)"
          @click="unfold(a.id)"
        />
        <ConversationLines
          v-if="unfolded.has(a.id)"
          :newest="a.id"
          :opened="opened"
          @open="$emit('open', $event)"
        />
      </div>
    </template>
    <div v-if="hasNextPage" v-intersect="onSight" class="more">
      <v-btn size="small" variant="tonal" :loading="asyncStatus === 'loading'" @click="loadNextPage()"
        >Older</v-btn
      >
    </div>
    <p v-else-if="activities.length > 8" class="more quiet">That is all.</p>
  </div>
</template>

<style scoped>
.day {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--ground);
  padding: 12px 20px 4px;
  font-size: 13.5px;
  border-bottom: 1px solid var(--line);
}
.item {
  position: relative;
}
.unfold {
  position: absolute;
  right: 8px;
  top: 3px;
}
</style>
