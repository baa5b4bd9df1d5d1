<script setup lang="ts">
import { computed, ref } from 'vue'
import { screen } from './screen'
import { clockOf, dayOf } from './times'

/** How this person likes to see and type dates and times; every field and list goes by it. */
const open = defineModel<boolean>({ required: true })
const own = Intl.DateTimeFormat().resolvedOptions().timeZone
const zones = [
  { title: `This computer’s: ${own}`, value: '' },
  ...Intl.supportedValuesOf('timeZone').map((z) => ({ title: z.replaceAll('_', ' '), value: z })),
]
const at = ref(new Date().toISOString())
const example = computed(() => `${dayOf(at.value)}, ${clockOf(at.value)}`)
const THEMES = [
  { title: 'As the system', value: 'system' },
  { title: 'Day', value: 'day' },
  { title: 'Night', value: 'night' },
]
const DATES = [
  { title: 'Day, month, year', value: 'day-month' },
  { title: 'Month, day, year', value: 'month-day' },
  { title: 'Year, month, day', value: 'year-month' },
]
const HOURS = [
  { title: '24 hours', value: 24 },
  { title: '12 hours, am and pm', value: 12 },
]
const DAYS = [
  { title: 'Monday', value: 1 },
  { title: 'Sunday', value: 0 },
  { title: 'Saturday', value: 6 },
]
</script>

<template>
  <v-dialog v-model="open" max-width="420" aria-labelledby="display-title">
    <v-card class="pa-5">
      <h2 id="display-title">Display</h2>
      <p class="quiet mb-4">Kept in this browser. Now it is {{ example }}.</p>
      <div class="fields">
        <v-select v-model="screen.theme" label="Theme" :items="THEMES" />
        <v-select v-model="screen.dates" label="Dates" :items="DATES" />
        <v-select v-model="screen.hours" label="Clock" :items="HOURS" />
        <v-select v-model="screen.firstDay" label="Weeks begin on" :items="DAYS" />
        <v-autocomplete v-model="screen.zone" label="Time zone" :items="zones" auto-select-first />
      </div>
      <v-btn class="mt-4" variant="tonal" @click="open = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>
