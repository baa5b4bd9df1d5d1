<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { clockOn, clockText, columnDay } from '../kernel/times'
import { startOfDay, today, wall } from '../kernel/wall'
import MeetingBlock from './MeetingBlock.vue'
import { isOn, placed, wallTime, type Meeting, type Placed } from './days'
import { isMovable, useDragging } from './useDragging'

/** Days on the wall, hour by hour. A meeting that one may move is dragged to another hour or day, or taken there by Alt and an arrow. */
const props = defineProps<{
  days: Date[]
  meetings: readonly Meeting[]
  colours: Map<number, string>
  opened: string
  whose: boolean
}>()
const emit = defineEmits<{ open: [id: string]; move: [meeting: Meeting, begins: Date]; make: [at: Date] }>()
const HOUR = 44
const DAY_BEGINS = 7
const scroller = ref<HTMLElement | null>(null)
const columns = computed(() =>
  props.days.map((day) => ({
    day,
    today: today().getTime() === startOfDay(day).getTime(),
    allDay: props.meetings.filter((m) => m.allDay && isOn(m, day)),
    placed: placed(props.meetings, day),
  })),
)
const anyAllDay = computed(() => columns.value.some((c) => c.allDay.length))
onMounted(() => void nextTick(() => scroller.value?.scrollTo({ top: DAY_BEGINS * HOUR - 8 })))

const { drag, width, target, down, over, up, cancel, isClick, key } = useDragging(
  scroller,
  HOUR,
  () => props.days.length,
  (meeting, begins) => emit('move', meeting, begins),
)
function style(p: Placed) {
  const d = drag.value?.placed === p && drag.value.moved ? drag.value : null
  return {
    top: `${((p.top + (d?.minutes ?? 0)) / 60) * HOUR}px`,
    height: `${(p.height / 60) * HOUR - 1}px`,
    left: `${(p.column / p.columns) * 100}%`,
    width: `calc(${100 / p.columns}% - 2px)`,
    transform: d?.days ? `translateX(${d.days * width()}px)` : undefined,
    zIndex: d ? 3 : undefined,
  }
}
function make(event: MouseEvent, day: Date) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  emit('make', wallTime(day, Math.floor(((event.clientY - box.top) / HOUR) * 2) * 30))
}
const now = computed(() => {
  const d = wall(Date.now())
  return ((d.getUTCHours() * 60 + d.getUTCMinutes()) / 60) * HOUR
})
</script>

<template>
  <div
    ref="scroller"
    class="hours"
    :style="{ '--days': days.length }"
    role="region"
    aria-label="Hours of these days"
    tabindex="0"
  >
    <div class="top">
      <div class="heads">
        <span></span>
        <span v-for="c in columns" :key="c.day.getTime()" :class="{ today: c.today }">{{
          columnDay(c.day)
        }}</span>
      </div>
      <div v-if="anyAllDay" class="heads whole">
        <span class="quiet">all day</span>
        <div v-for="c in columns" :key="c.day.getTime()">
          <MeetingBlock
            v-for="m in c.allDay"
            :key="m.id"
            slim
            :meeting="m"
            :colour="colours.get(m.source ?? -1) ?? ''"
            :opened="m.id === opened"
            :whose="whose"
            @click="$emit('open', m.id)"
          />
        </div>
      </div>
    </div>
    <div class="grid" :style="{ height: `${24 * HOUR}px` }">
      <div class="clock">
        <span v-for="hour in 23" :key="hour" :style="{ top: `${hour * HOUR}px` }">{{
          clockText(hour * 60)
        }}</span>
      </div>
      <div
        v-for="(c, i) in columns"
        :key="c.day.getTime()"
        class="column"
        :class="{ today: c.today }"
        @dblclick.self="make($event, c.day)"
      >
        <div v-if="c.today" class="now" :style="{ top: `${now}px` }"></div>
        <div
          v-for="p in c.placed"
          :key="p.meeting.id"
          class="place"
          :class="{ movable: isMovable(p.meeting) }"
          :style="style(p)"
          @pointerdown="down($event, p, i)"
          @pointermove="over"
          @pointerup="up"
          @pointercancel="cancel"
          @click="isClick() && $emit('open', p.meeting.id)"
          @keydown="key($event, p.meeting)"
        >
          <MeetingBlock
            :meeting="p.meeting"
            :colour="colours.get(p.meeting.source ?? -1) ?? ''"
            :opened="p.meeting.id === opened"
            :whose="whose"
            :flat="p.height < 40"
          />
          <span v-if="drag?.placed === p && drag.moved" class="to">{{ clockOn(target(drag)) }}</span>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.hours {
  height: 100%;
  overflow-y: auto;
  scrollbar-width: thin;
}
.top {
  position: sticky;
  top: 0;
  z-index: 4;
  background: var(--ground);
}
.heads,
.grid {
  display: grid;
  grid-template-columns: 52px repeat(var(--days), minmax(0, 1fr));
}
.heads {
  border-bottom: 1px solid var(--line);
  font-size: 13px;
}
.heads > * {
  padding: 4px 6px;
  min-width: 0;
}
.heads .today {
  font-weight: 700;
  box-shadow: inset 0 -3px 0 var(--accent);
}
.whole > div {
  padding: 2px;
}
.grid {
  position: relative;
}
.clock {
  position: relative;
}
.clock span {
  position: absolute;
  right: 6px;
  transform: translateY(-50%);
  font-size: 11.5px;
  color: var(--quiet);
}
.column {
  position: relative;
  border-left: 1px solid var(--line);
  /* a line each hour */
  background: repeating-linear-gradient(var(--line) 0 1px, transparent 1px 44px);
}
.place {
  position: absolute;
}
.movable {
  touch-action: none;
}
.movable :deep(.block) {
  cursor: grab;
}
.now {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 2px solid var(--accent);
  z-index: 1;
  pointer-events: none;
}
.to {
  position: absolute;
  right: 2px;
  bottom: 0;
  background: var(--picked);
  font-size: 12px;
  padding: 0 4px;
}
</style>
