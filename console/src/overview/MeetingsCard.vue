<script setup lang="ts">
import { computed } from 'vue'
import { useMe } from '../kernel/useMe'
import { useToday } from '../kernel/useToday'
import { addDays, instant } from '../kernel/wall'
import { useMeetings } from '../meetings/queries'
import MeetingLine from './MeetingLine.vue'

/** One's own meetings and follow-ups of today and tomorrow. */
const { me } = useMe()
const today = useToday()
const { data } = useMeetings(
  () => instant(today.value),
  () => instant(addDays(today.value, 2)),
  () => ({ people: me.value?.person ? [me.value.person] : [], team: '', record: '' }),
  0,
)
const all = computed(() => data.value?.meetings ?? [])
const meetings = computed(() => all.value.filter((m) => m.sort !== 'follow-up'))
const due = computed(() => all.value.filter((m) => m.sort === 'follow-up' && m.state === 'planned'))
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Today and tomorrow</h2>
      <router-link to="/calendar">Calendar</router-link>
    </div>
    <p v-if="data && !meetings.length" class="quiet">No meetings today or tomorrow.</p>
    <MeetingLine v-for="m in meetings" :key="m.id" :meeting="m" />
    <template v-if="due.length">
      <h3 class="mt-3">Follow-ups due</h3>
      <MeetingLine v-for="m in due" :key="m.id" :meeting="m" />
    </template>
  </v-card>
</template>
