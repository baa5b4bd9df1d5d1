<script setup lang="ts">
import type { Schemas } from '../api/client'
import RemoveCondition from './RemoveCondition.vue'

/** Conditions, all of which must be met: what is looked at, how it is compared, with what. */
const conditions = defineModel<Schemas['ConditionRule'][]>({ required: true })
const props = defineProps<{ fields: { title: string; value: string }[] }>()
const COMPARISONS = [
  { title: 'at least', value: 'at-least' },
  { title: 'at most', value: 'at-most' },
  { title: 'exactly', value: 'is' },
]
</script>

<template>
  <span v-for="(c, i) in conditions" :key="i" class="condition"
    >{{ i ? ' and ' : '' }} <word-select v-model="c.field" aria-label="Field" :items="fields" />
    <word-select v-model="c.comparison" aria-label="Comparison" :items="COMPARISONS" />
    <word-field v-model.number="c.value" class="days" type="number" min="0" aria-label="Value" />
    <RemoveCondition @remove="conditions.splice(i, 1)"
  /></span>
  <text-btn @click="conditions.push({ field: props.fields[0]!.value, comparison: 'is', value: 1 })">{{
    conditions.length ? 'Add another condition' : 'Add a condition'
  }}</text-btn>
</template>

<style scoped>
.condition {
  white-space: nowrap;
}
</style>
