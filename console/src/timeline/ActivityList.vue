<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import { dayOf } from '../shared/times'
import { useList } from '../shared/useList'
import ActivityLine from './ActivityLine.vue'

const props = defineProps<{
  activities: Schemas['ActivityInfo'][]
  opened: string
  hasOlder: boolean
  loading: boolean
}>()
defineEmits<{ open: [id: string]; older: [] }>()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
const now = Date.now()

/** What stands between two days, and between what is to come and what was. */
function heading(i: number): string {
  const a = props.activities[i]
  const before = props.activities[i - 1]
  if (!a) return ''
  const today = dayOf(a.at, a.allDay)
  return !before || dayOf(before.at, before.allDay) !== today ? today : ''
}
function isFirstPast(i: number): boolean {
  const a = props.activities[i]
  const before = props.activities[i - 1]
  return !!a && !!before && new Date(a.at).getTime() <= now && new Date(before.at).getTime() > now
}
</script>

<template>
  <div ref="list" role="list" aria-label="Activities" @keydown="move">
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
    <div v-if="hasOlder" class="more">
      <v-btn size="small" variant="tonal" :loading="loading" @click="$emit('older')">Older</v-btn>
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
