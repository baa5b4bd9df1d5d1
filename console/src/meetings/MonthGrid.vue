<script setup lang="ts">
import { computed, ref } from 'vue'
import { longDay, weekday } from '../kernel/times'
import { dateOf, startOfDay, today } from '../kernel/wall'
import MeetingBlock from './MeetingBlock.vue'
import { isOn, type Meeting } from './days'

/** Six weeks of days on the wall. A meeting that one may move is dragged to another day, or taken there by Alt and an arrow. */

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
const emit = defineEmits<{ open: [id: string]; day: [at: Date]; move: [meeting: Meeting, days: number] }>()
const SHOWN = 4
const now = computed(() => today().getTime())
const cells = computed(() =>
  props.days.map((day) => {
    const all = props.meetings.filter((m) => isOn(m, day))
    const count = Math.max(all.length, props.counts.get(dateOf(day)) ?? 0)
    return { day, shown: count > SHOWN ? all.slice(0, SHOWN - 1) : all, count }
  }),
)
const names = computed(() => props.days.slice(0, 7).map((d) => weekday(d)))

const dragged = ref<{ meeting: Meeting; from: Date } | null>(null)
const over = ref('')
function movable(m: Meeting): boolean {
  return m.mine && m.state === 'planned'
}
/** By as many days as it was dragged, whichever of its days it was taken by. */
function drop(day: Date) {
  const d = dragged.value
  dragged.value = null
  over.value = ''
  if (!d) return
  const by = Math.round((startOfDay(day).getTime() - startOfDay(d.from).getTime()) / 86_400_000)
  if (by) emit('move', d.meeting, by)
}
const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }
function key(event: KeyboardEvent, m: Meeting) {
  const by = STEPS[event.key]
  if (!event.altKey || !by || !movable(m)) return
  event.preventDefault()
  event.stopPropagation()
  emit('move', m, by)
}
</script>

<template>
  <div class="month">
    <div v-for="n in names" :key="n" class="name quiet">{{ n }}</div>
    <div
      v-for="c in cells"
      :key="c.day.getTime()"
      class="cell"
      :class="{
        other: c.day.getUTCMonth() !== month,
        today: c.day.getTime() === now,
        over: over === dateOf(c.day),
      }"
      @dragover.prevent="over = dateOf(c.day)"
      @drop.prevent="drop(c.day)"
    >
      <text-btn class="date" :title="`Open ${longDay(c.day)}`" @click="$emit('day', c.day)">
        {{ c.day.getUTCDate() }}
      </text-btn>
      <MeetingBlock
        v-for="m in c.shown"
        :key="m.id"
        slim
        :meeting="m"
        :colour="colours.get(m.source ?? -1) ?? ''"
        :opened="m.id === opened"
        :whose="whose"
        :draggable="movable(m)"
        @dragstart="dragged = { meeting: m, from: c.day }"
        @dragend="((dragged = null), (over = ''))"
        @keydown="key($event, m)"
        @click="$emit('open', m.id)"
      />
      <text-btn v-if="c.count > c.shown.length" class="more" @click="$emit('day', c.day)">
        {{ c.count - c.shown.length }} more
      </text-btn>
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
.over {
  background: var(--picked);
}
.date {
  align-self: start;
  font-size: 12px;
  padding: 0 4px;
  text-decoration: none !important;
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
