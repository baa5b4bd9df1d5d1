<script setup lang="ts">
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { nameOf, type Meeting } from '../meetings/days'
import { useActivity } from '../timeline/queries'
import { useLast } from './queries'

/** One of one's own meetings, with the last thing that was said to the customer. */
const props = defineProps<{ meeting: Meeting }>()
const { data: activity } = useActivity(() => props.meeting.id)
const record = computed(() => {
  const links = activity.value?.links ?? []
  return (links.find((l) => l.kind === 'account') ?? links[0]) as { id: string; name: string } | undefined
})
const { data: timeline } = useLast(() => record.value?.id ?? '')
const last = computed(() => timeline.value?.activities[0])
</script>

<template>
  <div class="meeting">
    <WhenAt class="quiet nowrap" :at="meeting.begins" :all-day="meeting.allDay" />
    <span class="clip">
      <router-link :to="{ path: '/calendar', query: { view: 'agenda', open: meeting.id } }"
        ><b>{{ nameOf(meeting) }}</b></router-link
      >
      <span class="quiet">{{ meeting.sort === 'meeting' ? '' : meeting.sort }}</span>
      <br />
      <template v-if="record">
        <router-link :to="`/timeline/${record.id}`">{{ record.name }}</router-link>
        <span v-if="last" class="quiet">
          last <WhenAt :at="last.at" only="distance" />:
          {{ last.visibility === 'full' ? last.snippet || last.subject : 'private' }}</span
        >
      </template>
      <span v-else class="quiet">{{ meeting.account || meeting.place || meeting.state }}</span>
    </span>
  </div>
</template>

<style scoped>
.meeting {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  gap: 12px;
  padding: 5px 0;
}
.meeting + .meeting {
  border-top: 1px solid var(--line);
}
</style>
