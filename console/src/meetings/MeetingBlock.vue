<!-- a button of its own: it is drawn into the grids, to the minute -->
<script setup lang="ts">
import { computed } from 'vue'
import { clockOf } from '../kernel/times'
import { nameOf, type Meeting } from './days'

/** One meeting as it is drawn: its state is told by word and shape, its layer by the edge. */
const props = defineProps<{
  meeting: Meeting
  colour: string
  opened: boolean
  whose: boolean
  slim?: boolean
  flat?: boolean
}>()
const state = computed(() => (props.meeting.visibility === 'full' ? props.meeting.state : 'busy'))
const mark = computed(() => ({ call: '☎ ', 'follow-up': '↻ ' })[props.meeting.sort] ?? '')
const who = computed(() => props.meeting.owners.map((o) => o.name.split(' ')[0]).join(', '))
const says = computed(() => {
  const m = props.meeting
  const when = m.allDay ? 'all day' : `${clockOf(m.begins)}–${clockOf(m.ends)}`
  const how = ['planned', 'held'].includes(state.value) ? '' : `, ${state.value}`
  return `${when} ${nameOf(m)}${m.account ? `, ${m.account}` : ''}, ${m.owners.map((o) => o.name).join(', ')}${how}`
})
</script>

<template>
  <button
    class="block"
    :class="[state, { opened, slim: slim || flat }]"
    :style="{ borderLeftColor: colour }"
    :title="says"
    :aria-label="says"
    :aria-pressed="opened"
    :data-meeting="meeting.id"
  >
    <span v-if="!meeting.allDay && slim" class="clock">{{ clockOf(meeting.begins) }}</span>
    <span class="name">{{ mark }}{{ nameOf(meeting) }}</span>
    <span v-if="['cancelled', 'missed', 'declined'].includes(state)" class="word">{{ state }}</span>
    <span v-if="whose && !slim && !flat" class="who">{{ who }}</span>
  </button>
</template>

<style scoped>
.block {
  display: flex;
  flex-direction: column;
  width: 100%;
  height: 100%;
  overflow: hidden;
  text-align: left;
  padding: 1px 5px;
  border: 1px solid var(--line);
  border-left: 4px solid var(--accent);
  background: var(--surface-raised, var(--surface));
  color: inherit;
  font: inherit;
  font-size: 12px;
  line-height: 1.25;
  cursor: pointer;
}
.block:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: -1px;
}
.name {
  font-weight: 600;
}
.who,
.clock {
  color: var(--quiet);
}
.who {
  display: block;
}
.clock {
  margin-right: 4px;
}
.slim {
  display: block;
  height: auto;
  max-height: 100%;
  white-space: nowrap;
  text-overflow: ellipsis;
  padding: 0 4px;
}
.held {
  background: none;
}
.held .name {
  font-weight: 400;
}
.busy {
  background: repeating-linear-gradient(135deg, transparent 0 6px, var(--line) 6px 7px);
}
.busy .name {
  font-weight: 400;
  font-style: italic;
}
.cancelled .name,
.declined .name {
  text-decoration: line-through;
  font-weight: 400;
}
.word {
  margin-left: 5px;
  color: var(--quiet);
}
.missed .word {
  color: rgb(var(--v-theme-error));
}
.opened {
  background: var(--picked);
}
</style>
