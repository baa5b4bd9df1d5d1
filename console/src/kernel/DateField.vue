<script setup lang="ts">
import { mdiCalendar } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { screen } from './screen'
import { dateOrder, dateText, dayTyped } from './times'
import { dateOf } from './wall'

/** A day, typed or picked, in the order that the reader prefers; the model is such as 2026-05-04, or empty. */
const props = defineProps<{ label: string; required?: boolean; clearable?: boolean }>()
const day = defineModel<string>({ required: true })
const typed = ref('')
const open = ref(false)
watch(
  () => dateText(day.value),
  (text) => (typed.value = text),
  { immediate: true },
)
/** What is no day is put back as it was. */
function take() {
  const found = dayTyped(typed.value ?? '')
  if (found !== null && !(props.required && !found)) day.value = found
  typed.value = dateText(day.value)
}
const picked = computed({
  get: () => (day.value ? new Date(`${day.value}T12:00`) : null),
  set: (at: unknown) => {
    if (!(at instanceof Date)) return
    day.value = dateOf(new Date(Date.UTC(at.getFullYear(), at.getMonth(), at.getDate())))
    open.value = false
  },
})
function clear() {
  day.value = ''
}
</script>

<template>
  <v-text-field
    v-model="typed"
    class="date"
    :label="label"
    :required="required"
    :clearable="clearable"
    :placeholder="dateOrder"
    persistent-placeholder
    @blur="take"
    @keydown.enter="take"
    @click:clear="clear"
  >
    <template #append-inner>
      <v-menu v-model="open" :close-on-content-click="false" role="dialog" :aria-label="label">
        <template #activator="{ props: menu }">
          <v-btn
            v-bind="menu"
            :icon="mdiCalendar"
            size="x-small"
            variant="text"
            :aria-label="`Pick a day: ${label}`"
            title="Pick a day"
          />
        </template>
        <v-date-picker
          v-model="picked"
          :first-day-of-week="screen.firstDay"
          hide-header
          show-adjacent-months
        />
      </v-menu>
    </template>
  </v-text-field>
</template>

<style scoped>
.date {
  width: 178px;
  flex: 0 0 auto;
}
</style>
