<script setup lang="ts">
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useMe } from '../kernel/useMe'
import { useMeetings } from '../meetings/queries'

/** One's own meetings of today and tomorrow. */
const { me } = useMe()
const start = new Date()
start.setHours(0, 0, 0, 0)
const end = new Date(start)
end.setDate(end.getDate() + 2)
const { data } = useMeetings(
  () => start,
  () => end,
  () => ({ people: me.value?.person ? [me.value.person] : [], team: '', record: '' }),
  200,
)
const meetings = computed(() => data.value?.meetings ?? [])
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Today and tomorrow</h2>
      <router-link to="/calendar">Calendar</router-link>
    </div>
    <p v-if="data && !meetings.length" class="quiet">No meetings today or tomorrow.</p>
    <div v-for="m in meetings" :key="m.id" class="meeting">
      <WhenAt class="quiet nowrap" :at="m.begins" :all-day="m.allDay" />
      <span class="clip" :title="`${m.title}, ${m.state}`"
        ><b>{{ m.title || 'Busy' }}</b
        ><br /><span class="quiet">{{ m.account || m.place || m.state }}</span></span
      >
    </div>
  </v-card>
</template>

<style scoped>
.meeting {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 12px;
  padding: 5px 0;
}
.meeting + .meeting {
  border-top: 1px solid var(--line);
}
</style>
