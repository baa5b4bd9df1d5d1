<script setup lang="ts">
import { computed } from 'vue'
import { screen } from './screen'
import { dateOrder, dateText } from './times'

/** A day, typed or picked, in the order that the reader prefers; the model is such as 2026-05-04, or empty. */
defineProps<{ label?: string; required?: boolean; clearable?: boolean }>()
const day = defineModel<string>({ required: true })
const picked = computed({
  get: () => (day.value ? new Date(`${day.value}T12:00`) : null),
  set: (at: unknown) => {
    const two = (n: number) => String(n).padStart(2, '0')
    day.value =
      at instanceof Date && !Number.isNaN(at.getTime())
        ? `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
        : ''
  },
})
</script>

<template>
  <v-date-input
    v-model="picked"
    :label="label"
    :required="required"
    :clearable="clearable"
    :placeholder="dateOrder"
    :input-format="dateOrder"
    :display-format="() => dateText(day)"
    :first-day-of-week="screen.firstDay"
    :update-on="['blur', 'enter']"
    prepend-icon=""
    prepend-inner-icon="$calendar"
    persistent-placeholder
    class="date"
  />
</template>

<style scoped>
.date {
  width: 158px;
  flex: 0 0 auto;
}
</style>
