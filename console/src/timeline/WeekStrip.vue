<script setup lang="ts">
import { computed, ref } from 'vue'
import { many, plainDay } from '../kernel/times'
import { wall } from '../kernel/wall'
import { useWeeks } from './queries'
import { barsOf, monthsOf } from './weeks'

/** How much happened when; a click on a week, or Enter, goes there. */
const props = defineProps<{ record: string }>()
/** The last day that is shown, such as 2026-05-10; empty for today. */
const until = defineModel<string>({ required: true })
const HEIGHT = 28
const { data } = useWeeks(() => props.record)
const strip = computed(() => barsOf(data.value ?? [], wall(Date.now())))
const bars = computed(() => strip.value.bars)
const months = computed(() => monthsOf(bars.value, Math.max(6, Math.ceil(bars.value.length / 8))))
const now = computed(() => {
  const first = bars.value.findIndex((b) => b.ahead)
  return first < 0 ? bars.value.length - 1 : Math.max(0, first - 1)
})
const chosen = computed(() => {
  const at = bars.value.findIndex((b) => b.last >= until.value)
  return until.value && at >= 0 ? at : now.value
})
const under = ref(-1)
const at = computed(() => (under.value >= 0 ? under.value : chosen.value))
function says(i: number): string {
  const b = bars.value[i]
  if (!b) return ''
  const what = [b.mail && many(b.mail, 'message'), b.meetings && many(b.meetings, 'meeting')].filter(Boolean)
  return `from ${plainDay(b.begins)}: ${what.join(', ') || 'nothing'}`
}
function go(i: number) {
  const b = bars.value[i]
  if (b) until.value = i >= now.value ? '' : b.last
}
function key(event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -4, PageDown: 4 }[event.key]
  if (by) {
    event.preventDefault()
    under.value = Math.min(bars.value.length - 1, Math.max(0, at.value + by))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    go(at.value)
  }
}
</script>

<template>
  <div v-if="bars.length > 1" class="strip">
    <svg
      :viewBox="`0 0 ${bars.length} ${HEIGHT}`"
      preserveAspectRatio="none"
      role="slider"
      tabindex="0"
      aria-label="Weeks"
      :aria-valuemin="0"
      :aria-valuemax="bars.length - 1"
      :aria-valuenow="at"
      :aria-valuetext="says(at)"
      @keydown="key"
      @mouseleave="under = -1"
      @blur="under = -1"
    >
      <g v-for="(b, i) in bars" :key="i" @mouseenter="under = i" @click="go(i)">
        <title>{{ says(i) }}</title>
        <rect :x="i" y="0" width="1" :height="HEIGHT" fill="transparent" />
        <rect
          :class="['bar', { ahead: b.ahead, chosen: i === chosen, under: i === under }]"
          :x="i + 0.06"
          width="0.88"
          :y="HEIGHT - Math.max(1, ((b.mail + b.meetings) / strip.most) * HEIGHT)"
          :height="Math.max(1, ((b.mail + b.meetings) / strip.most) * HEIGHT)"
        />
      </g>
    </svg>
    <div class="months quiet">
      <span v-for="m in months" :key="m.at" :style="{ left: `${(m.at / bars.length) * 100}%` }">{{
        m.name
      }}</span>
      <span v-if="under >= 0" class="says">{{ says(under) }}</span>
    </div>
  </div>
  <div v-else class="strip"></div>
</template>

<style scoped>
.strip {
  padding: 0 20px;
  height: 50px;
}
svg {
  display: block;
  width: 100%;
  height: 28px;
  cursor: pointer;
}
.bar {
  fill: color-mix(in srgb, rgb(var(--v-theme-logged)) 55%, var(--ground));
}
.bar.ahead {
  fill: color-mix(in srgb, rgb(var(--v-theme-logged)) 25%, var(--ground));
}
.bar.under {
  fill: rgb(var(--v-theme-logged));
}
.bar.chosen {
  fill: var(--accent);
}
.months {
  position: relative;
  height: 17px;
  font-size: 11.5px;
  border-top: 1px solid var(--line);
}
.months span {
  position: absolute;
  white-space: nowrap;
}
.months .says {
  right: 0;
  background: var(--ground);
  padding-left: 8px;
  color: var(--ink);
}
</style>
