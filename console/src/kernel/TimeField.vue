<script setup lang="ts">
import { ref, watch } from 'vue'
import { clockText, minutesOf } from './times'

/** A time of day as the reader's clock shows it; the model is minutes since midnight. What is no time is put back as it was. */
defineProps<{ label: string }>()
const minutes = defineModel<number>({ required: true })
const typed = ref('')
watch(
  () => clockText(minutes.value),
  (text) => (typed.value = text),
  { immediate: true },
)
function take() {
  minutes.value = minutesOf(typed.value) ?? minutes.value
  typed.value = clockText(minutes.value)
}
function step(by: number) {
  take()
  minutes.value = (minutes.value + by + 1440) % 1440
}
</script>

<template>
  <v-text-field
    v-model="typed"
    :label="label"
    required
    class="time"
    @blur="take"
    @keydown.enter="take"
    @keydown.up.prevent="step(15)"
    @keydown.down.prevent="step(-15)"
  />
</template>

<style scoped>
.time {
  width: 104px;
  flex: 0 0 auto;
}
</style>
