<script setup lang="ts">
import { computed } from 'vue'
import MeetingBlock from './MeetingBlock.vue'
import { dateOf, isOn, startOfDay, type Meeting } from './days'

const props = defineProps<{
  days: Date[]
  month: number
  /** How many each day has, where not all are at hand. */
  counts: Map<string, number>
  meetings: readonly Meeting[]
  colours: Map<number, string>
  opened: string
  whose: boolean
}>()
defineEmits<{ open: [id: string]; day: [at: Date] }>()
const SHOWN = 4
const today = startOfDay(new Date()).getTime()
const cells = computed(() =>
  props.days.map((day) => {
    const all = props.meetings.filter((m) => isOn(m, day))
    const count = Math.max(all.length, props.counts.get(dateOf(day)) ?? 0)
    return { day, shown: count > SHOWN ? all.slice(0, SHOWN - 1) : all, count }
  }),
)
const names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
</script>

<template>
  <div class="month">
    <div v-for="n in names" :key="n" class="name quiet">{{ n }}</div>
    <div
      v-for="c in cells"
      :key="c.day.getTime()"
      class="cell"
      :class="{ other: c.day.getMonth() !== month, today: c.day.getTime() === today }"
    >
      <button class="date linkish" :title="`Open ${c.day.toDateString()}`" @click="$emit('day', c.day)">
        {{ c.day.getDate() }}
      </button>
      <MeetingBlock
        v-for="m in c.shown"
        :key="m.id"
        slim
        :meeting="m"
        :colour="colours.get(m.source ?? -1) ?? ''"
        :opened="m.id === opened"
        :whose="whose"
        @click="$emit('open', m.id)"
      />
      <button v-if="c.count > c.shown.length" class="linkish more" @click="$emit('day', c.day)">
        {{ c.count - c.shown.length }} more
      </button>
    </div>
  </div>
</template>

<style scoped>
.month {
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  grid-template-rows: auto repeat(6, minmax(0, 1fr));
  height: 100%;
  min-height: 560px;
}
.name {
  padding: 3px 6px;
  font-size: 12.5px;
}
.cell {
  border-top: 1px solid var(--line);
  border-left: 1px solid var(--line);
  padding: 1px 2px;
  overflow: hidden;
  display: flex;
  flex-direction: column;
  gap: 1px;
}
.date {
  align-self: start;
  font-size: 12px;
  padding: 0 4px;
}
.today .date {
  font-weight: 700;
  box-shadow: inset 0 -3px 0 var(--accent);
}
.other .date {
  color: var(--quiet);
}
.more {
  align-self: start;
  font-size: 12px;
  padding: 0 4px;
}
</style>
