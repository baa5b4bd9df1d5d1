<!-- its rows are buttons of their own: they are laid out like the timeline’s lines -->
<script setup lang="ts">
import { computed, ref } from 'vue'
import { useList } from '../kernel/useList'
import { clockOf, dayOn, many } from '../kernel/times'
import { isOn, nameOf, type Meeting } from './days'

const props = defineProps<{ days: Date[]; meetings: readonly Meeting[]; opened: string }>()
defineEmits<{ open: [id: string] }>()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
const groups = computed(() => {
  let n = 0
  return props.days
    .map((day) => ({
      day,
      rows: props.meetings.filter((m) => isOn(m, day)).map((m) => ({ m, n: n++ })),
    }))
    .filter((g) => g.rows.length)
})
</script>

<template>
  <div ref="list" class="agenda" @keydown="move">
    <section v-for="g in groups" :key="g.day.getTime()">
      <h2>
        {{ dayOn(g.day) }}
        <span class="quiet">{{ many(g.rows.length, 'meeting') }}</span>
      </h2>
      <button
        v-for="{ m, n } in g.rows"
        :key="m.id"
        data-row
        :tabindex="n === current ? 0 : -1"
        :class="['row', m.state, { picked: m.id === opened }]"
        @click="((current = n), $emit('open', m.id))"
      >
        <span class="when">{{ m.allDay ? 'all day' : `${clockOf(m.begins)}–${clockOf(m.ends)}` }}</span>
        <span class="clip name">{{ nameOf(m) }}</span>
        <span class="clip quiet">{{ m.account }}</span>
        <span class="clip quiet">{{ m.owners.map((o) => o.name).join(', ') }}</span>
        <span class="quiet">{{ m.sort === 'meeting' ? '' : m.sort }} {{ m.state }}</span>
      </button>
    </section>
  </div>
</template>

<style scoped>
.agenda {
  overflow: auto;
  height: 100%;
  padding: 0 14px 14px;
}
h2 {
  font-size: 14px;
  padding: 12px 0 3px;
}
h2 span {
  font-weight: 400;
  margin-left: 8px;
}
.row {
  display: grid;
  grid-template-columns: 100px minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr) 110px;
  gap: 12px;
  width: 100%;
  text-align: left;
  padding: 4px 6px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.row:hover,
.picked {
  background: var(--picked);
}
.name {
  font-weight: 600;
}
.held .name {
  font-weight: 400;
}
.cancelled .name,
.declined .name {
  text-decoration: line-through;
}
</style>
