<script setup lang="ts">
import { computed } from 'vue'
import { usePeople } from './queries'

/** One of our people, chosen by typing some of the name; empty when nobody is. */
const chosen = defineModel<string>({ required: true })
const props = defineProps<{
  by?: 'id' | 'key'
  /** What stands for an empty choice; without it, somebody has to be chosen. */
  nobody?: string
}>()
const { data: people } = usePeople()
const choices = computed(() => [
  ...(props.nobody ? [{ title: props.nobody, value: '' }] : []),
  ...(people.value ?? []).map((p) => ({ title: p.name, value: p[props.by ?? 'id'] })),
])
const shown = computed({
  get: () => (chosen.value || props.nobody ? chosen.value : null),
  set: (value: string | null) => (chosen.value = value ?? ''),
})
</script>

<template>
  <v-autocomplete v-model="shown" :items="choices" auto-select-first />
</template>
