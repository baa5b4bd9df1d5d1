<script setup lang="ts">
import { computed, reactive } from 'vue'
import { refDebounced } from '../kernel/refDebounced'
import { useInAddress } from '../kernel/useInAddress'
import StateNote from '../kernel/StateNote.vue'
import ActivityList from './ActivityList.vue'
import PlannedLines from './PlannedLines.vue'
import TimelineFilter from './TimelineFilter.vue'
import WeekStrip from './WeekStrip.vue'
import { FEW_PLANNED, everything, usePlanned, useTimeline, type TimelineWanted } from './queries'

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
const planned = usePlanned(() => props.record, settled, FEW_PLANNED)
const ahead = computed(() => !!wanted.until || planned.status.value !== 'pending')
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
  <!-- not before what stands above it: a list that is read does not move -->
  <StateNote v-if="!ahead" loading />
  <ActivityList
    v-else
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
