<script setup lang="ts">
import { computed, reactive } from 'vue'
import { refDebounced } from '../kernel/refDebounced'
import { useInAddress } from '../kernel/useInAddress'
import ActivityList from './ActivityList.vue'
import PlannedLines from './PlannedLines.vue'
import TimelineFilter from './TimelineFilter.vue'
import WeekStrip from './WeekStrip.vue'
import { everything, useTimeline, type TimelineWanted } from './queries'

/** One record's timeline: how much happened when, what lies ahead, and what was, filtered by what stands in the address. */
const props = defineProps<{ record: string; opened: string }>()
defineEmits<{ open: [id: string] }>()
const wanted = reactive<TimelineWanted>({ ...everything })
useInAddress(wanted)
const settled = refDebounced(
  computed(() => ({ ...wanted })),
  200,
)
const asked = useTimeline(() => props.record, settled)
const isNarrowed = computed(() => Object.entries(wanted).some(([name, value]) => value && name !== 'flat'))
</script>

<template>
  <WeekStrip v-model="wanted.until" :record="record" />
  <TimelineFilter :model-value="wanted" />
  <PlannedLines
    v-if="!wanted.until"
    :record="record"
    :wanted="settled"
    :opened="opened"
    @open="$emit('open', $event)"
  />
  <ActivityList
    :asked="asked"
    :opened="opened"
    :empty="isNarrowed ? 'Nothing on this timeline fits' : 'Nothing has been logged for this record'"
    :todo="
      isNarrowed
        ? 'Take a filter away, or show all.'
        : 'Mail and meetings appear here once somebody who takes part is known to belong to it. Decisions says what became of an item.'
    "
    @open="$emit('open', $event)"
  />
</template>
