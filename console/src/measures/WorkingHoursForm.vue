<script setup lang="ts">
import { reactive, watch } from 'vue'
import SaveButtons from '../kernel/SaveButtons.vue'
import StateNote from '../kernel/StateNote.vue'
import TimeField from '../kernel/TimeField.vue'
import { useChangeHours, useHours } from './queries'

/** When the company works: the hours that customers wait. */
const open = defineModel<boolean>({ required: true })
const { data, error, asyncStatus, refetch } = useHours()
const save = useChangeHours()
const DAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']
const zones = [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone')])].map((z) => ({
  title: z.replaceAll('_', ' '),
  value: z,
}))
const form = reactive({
  zone: '',
  days: [] as { day: string; works: boolean; from: number; until: number }[],
  holidays: '',
})
/** Since midnight, of a time such as 09:00. */
function minutes(text: string): number {
  return Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5))
}
function clock(at: number): string {
  return [Math.floor(at / 60), at % 60].map((n) => String(n).padStart(2, '0')).join(':')
}
watch([open, data], () => {
  // what is being typed is not written over
  if (open.value && !form.days.length && data.value) {
    const now = data.value
    form.zone = now.zone
    form.days = DAYS.map((day) => {
      const known = now.days.find((d) => d.day === day)
      return {
        day,
        works: !!known,
        from: minutes(known?.from ?? '09:00'),
        until: minutes(known?.until ?? '17:00'),
      }
    })
    form.holidays = now.holidays.join('\n')
  }
  if (!open.value) form.days = []
})
async function submit() {
  await save.mutateAsync({
    zone: form.zone,
    days: form.days
      .filter((d) => d.works)
      .map(({ day, from, until }) => ({ day, from: clock(from), until: clock(until) })),
    holidays: form.holidays.split('\n').flatMap((l) => l.trim() || []),
  })
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="hours-title">
    <v-card class="pa-5">
      <h2 id="hours-title">Working hours</h2>
      <p class="quiet">How long customers wait is counted in these hours, for the past too.</p>
      <StateNote
        v-if="!form.days.length"
        :error="error"
        :loading="asyncStatus === 'loading'"
        @again="refetch()"
      />
      <form v-else class="hours" @submit.prevent="submit().catch(() => undefined)">
        <v-autocomplete v-model="form.zone" :items="zones" label="Time zone" auto-select-first />
        <div v-for="d in form.days" :key="d.day" class="of-day" role="group" :aria-label="d.day">
          <v-checkbox v-model="d.works" :label="d.day" />
          <template v-if="d.works">
            <TimeField v-model="d.from" label="From" />
            <TimeField v-model="d.until" label="Until" />
          </template>
          <span v-else class="quiet">not worked</span>
        </div>
        <v-textarea
          v-model="form.holidays"
          label="Days off, one a line"
          hint="Such as 2026-12-25"
          persistent-hint
          rows="3"
        />
        <StateNote v-if="save.error.value" :error="save.error.value" />
        <SaveButtons :saving="save.isLoading.value" @cancel="open = false" />
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.hours {
  display: grid;
  gap: 8px;
  margin-top: 12px;
}
.of-day {
  display: grid;
  grid-template-columns: 150px 1fr 1fr;
  gap: 8px;
  align-items: center;
  min-height: 44px;
}
.of-day :deep(.v-label) {
  text-transform: capitalize;
}
</style>
