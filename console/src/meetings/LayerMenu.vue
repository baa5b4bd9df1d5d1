<script setup lang="ts">
import { mdiLayersOutline } from '@mdi/js'
import type { Schemas } from '../api/client'
import { many } from '../kernel/times'

/** The calendars that are shown, each with its colour; those unticked are hidden. */
defineProps<{ layers: readonly Schemas['LayerInfo'][]; colours: Map<number, string> }>()
const hidden = defineModel<number[]>({ required: true })
function toggle(source: number) {
  hidden.value = hidden.value.includes(source)
    ? hidden.value.filter((h) => h !== source)
    : [...hidden.value, source]
}
</script>

<template>
  <v-menu v-if="layers.length > 1" :close-on-content-click="false" role="dialog" aria-label="Calendars">
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" size="small" variant="text" :prepend-icon="mdiLayersOutline"
        >{{ many(layers.length, 'calendar')
        }}<span v-if="hidden.length">, {{ hidden.length }} hidden</span></v-btn
      >
    </template>
    <v-card class="pa-3" max-height="320">
      <v-checkbox
        v-for="l in layers"
        :key="l.source"
        :model-value="!hidden.includes(l.source)"
        @update:model-value="toggle(l.source)"
      >
        <template #label>
          <span class="swatch" :style="{ background: colours.get(l.source) }"></span>
          {{ l.personName }}, {{ l.label }}
        </template>
      </v-checkbox>
    </v-card>
  </v-menu>
</template>

<style scoped>
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin: 0 6px 0 2px;
}
</style>
