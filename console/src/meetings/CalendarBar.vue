<script setup lang="ts">
import { mdiChevronLeft, mdiChevronRight } from '@mdi/js'
import { computed } from 'vue'
import { useMe } from '../kernel/useMe'
import { today } from '../kernel/wall'
import { titleOf } from './days'
import { usePeople } from '../people/queries'
import { VIEWS, type useCalendarView } from './useCalendarView'

/** What the calendar shows, and turning it. */
const props = defineProps<{ shown: ReturnType<typeof useCalendarView>; recordName: string }>()
const { view, around, who, record, hideDone, go, goTo, turn } = props.shown
const { me } = useMe()
const { data: people } = usePeople()
const choices = computed(() => {
  const teams = [...new Set((people.value ?? []).map((p) => p.team).filter(Boolean))].sort()
  return [
    ...(me.value?.person ? [{ title: 'Me', value: 'me' }] : []),
    { title: 'Everybody', value: 'all' },
    { title: 'Records I follow', value: 'followed' },
    ...teams.map((t) => ({ title: `Team ${t}`, value: `team ${t}` })),
    ...(people.value ?? []).map((p) => ({ title: p.name, value: `person ${p.id}` })),
  ]
})
</script>

<template>
  <div class="bar">
    <div class="turn">
      <v-btn
        size="small"
        variant="text"
        :icon="mdiChevronLeft"
        title="Back (p)"
        aria-label="Back"
        @click="turn(-1)"
      />
      <v-btn size="small" variant="text" title="Today (t)" @click="goTo(today())">Today</v-btn>
      <v-btn
        size="small"
        variant="text"
        :icon="mdiChevronRight"
        title="Forward (n)"
        aria-label="Forward"
        @click="turn(1)"
      />
      <strong aria-live="polite">{{ titleOf(view, around) }}</strong>
    </div>
    <v-btn-toggle :model-value="view" mandatory aria-label="View" @update:model-value="go({ view: $event })">
      <v-btn v-for="v in VIEWS" :key="v" :value="v" size="small">{{ v === 'free' ? 'free time' : v }}</v-btn>
    </v-btn-toggle>
    <v-autocomplete
      :model-value="who"
      label="Whose"
      class="whose"
      :items="choices"
      auto-select-first
      @update:model-value="$event && go({ who: $event })"
    />
    <v-chip v-if="record" closable close-label="Show all again" @click:close="go({ record: '' })"
      >About {{ recordName || '…' }}</v-chip
    >
    <v-checkbox
      :model-value="hideDone"
      label="Hide done"
      @update:model-value="go({ done: $event ? 'no' : '' })"
    />
  </div>
</template>

<style scoped>
.turn {
  display: flex;
  align-items: center;
  gap: 2px;
}
.turn strong {
  min-width: 210px;
  margin-left: 6px;
}
.whose {
  flex: 0 0 180px;
}
</style>
