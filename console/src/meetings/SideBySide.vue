<script setup lang="ts">
import { computed } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { clockOf, clockText, many } from '../kernel/times'
import { startOfDay, wall } from '../kernel/wall'
import { spanOf } from './days'
import { useFree, type Whose } from './queries'

/** Who is busy when, side by side, and when all of them are free for so long. */
const props = defineProps<{ day: Date; whose: Whose }>()
const emit = defineEmits<{ make: [at: Date, minutes: number] }>()
const minutes = defineModel<number>('minutes', { required: true })
const FROM = 7
const UNTIL = 20
const span = computed(() => spanOf([startOfDay(props.day)]))
const { data, error, asyncStatus, refetch } = useFree(
  () => span.value.from,
  () => span.value.until,
  () => props.whose,
  minutes,
)
const LENGTHS = [15, 30, 45, 60, 90, 120, 240].map((m) => ({
  title: m < 60 ? `${m} minutes` : many(m / 60, 'hour'),
  value: m,
}))
const hours = Array.from({ length: UNTIL - FROM }, (_, i) => FROM + i)
function bar(busy: { from: string; until: string }) {
  const midnight = startOfDay(props.day).getTime()
  const hour = (at: string) => Math.min(UNTIL, Math.max(FROM, (wall(at).getTime() - midnight) / 3_600_000))
  const left = ((hour(busy.from) - FROM) / (UNTIL - FROM)) * 100
  return { left: `${left}%`, width: `${((hour(busy.until) - FROM) / (UNTIL - FROM)) * 100 - left}%` }
}
/** Whether there is room for both its ends. */
function isLong(span: { from: string; until: string }) {
  return Date.parse(span.until) - Date.parse(span.from) >= 75 * 60_000
}
const nobody = computed(() => !props.whose.people.length && !props.whose.team)
</script>

<template>
  <div class="side">
    <p class="ask">
      When are all of them free for
      <word-select v-model="minutes" aria-label="Length" :items="LENGTHS" />, between {{ clockText(540) }} and
      {{ clockText(1020) }}?
      <strong v-if="data" role="status">{{
        data.free.length ? many(data.free.length, 'free stretch', 'free stretches') : 'Never on this day.'
      }}</strong>
    </p>
    <StateNote
      v-if="nobody"
      empty="Choose people or a team above"
      todo="Their days are shown side by side."
    />
    <StateNote
      v-else-if="error || !data"
      :error="error"
      :loading="asyncStatus === 'loading'"
      @again="refetch()"
    />
    <div v-else class="table">
      <span></span>
      <div class="axis">
        <span v-for="h in hours" :key="h" class="quiet">{{ clockText(h * 60).replace(':00', '') }}</span>
      </div>
      <template v-for="p in data.people" :key="p.person">
        <span class="clip">{{ p.name }}</span>
        <div class="line">
          <span
            v-for="s in p.busy"
            :key="s.from"
            class="busy"
            :style="bar(s)"
            :title="`${p.name} is busy ${clockOf(s.from)}–${clockOf(s.until)}`"
          ></span>
        </div>
      </template>
      <strong>All free</strong>
      <div class="line all">
        <button
          v-for="s in data.free"
          :key="s.from"
          class="free"
          :style="bar(s)"
          :title="`New at ${clockOf(s.from)}`"
          @click="emit('make', wall(s.from), minutes)"
        >
          {{ clockOf(s.from) }}{{ isLong(s) ? `–${clockOf(s.until)}` : '' }}
        </button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.side {
  padding: 14px 18px;
  overflow: auto;
  height: 100%;
}
.ask {
  margin-bottom: 12px;
}
.table {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 3px 12px;
  align-items: center;
}
.axis {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  font-size: 11.5px;
}
.line {
  position: relative;
  height: 26px;
  border: 1px solid var(--line);
  background: repeating-linear-gradient(
    90deg,
    transparent 0 calc(100% / 13 - 1px),
    var(--line) calc(100% / 13 - 1px) calc(100% / 13)
  );
}
.busy,
.free {
  position: absolute;
  top: 2px;
  bottom: 2px;
}
.busy {
  background: rgb(var(--v-theme-primary));
  opacity: 0.75;
}
.all {
  height: 30px;
}
.free {
  border: 2px solid rgb(var(--v-theme-logged));
  background: var(--surface);
  color: inherit;
  font: inherit;
  font-size: 12px;
  overflow: hidden;
  white-space: nowrap;
  padding: 0;
  cursor: pointer;
  min-width: 2px;
}
</style>
