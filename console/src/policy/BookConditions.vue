<script setup lang="ts">
import { computed, onMounted } from 'vue'
import type { Schemas } from '../api/client'
import { useFields } from '../directory/queries'
import RemoveCondition from './RemoveCondition.vue'

/** Alternatives of what cards or contacts must be: in one of them, all conditions are met. */
type Condition = Schemas['BookConditionRule']
const given = defineModel<Condition[][] | null | undefined>({ required: true })
/** `own`: fields that the company made for itself can be asked for, too. */
const props = defineProps<{ of: string; own?: boolean }>()
const FIELDS = [
  { title: 'organisation', value: 'organisation' },
  { title: 'part of the organisation', value: 'unit' },
  { title: 'name', value: 'name' },
  { title: 'title', value: 'title' },
  { title: 'role', value: 'role' },
  { title: 'mail address', value: 'mail' },
  { title: 'telephone', value: 'telephone' },
  { title: 'postal address', value: 'place' },
  { title: 'web address', value: 'web-address' },
  { title: 'category', value: 'category' },
  { title: 'birthday', value: 'birthday' },
  { title: 'note', value: 'note' },
]
const COMPARISONS = [
  { title: 'contains', value: 'contains' },
  { title: 'does not contain', value: 'contains-not' },
  { title: 'is', value: 'is' },
  { title: 'is not', value: 'is-not' },
  { title: 'begins with', value: 'begins-with' },
  { title: 'ends with', value: 'ends-with' },
  { title: 'is filled in', value: 'filled' },
  { title: 'is empty', value: 'empty' },
]
/** Of numbers and dates alone. */
const IN_ORDER = [
  { title: 'is at least', value: 'at-least' },
  { title: 'is at most', value: 'at-most' },
]
const { data: fields } = useFields()
const ownFields = computed(() => (props.own ? (fields.value?.fields ?? []) : []))
const known = computed(() => [...FIELDS, ...ownFields.value.map((f) => ({ title: f.name, value: f.key }))])
function comparisonsOf(c: Condition) {
  const kind = ownFields.value.find((f) => f.key === c.field)?.kind
  const ordered = kind === 'number' || kind === 'date' || c.field === 'birthday'
  return ordered || c.comparison.startsWith('at-') ? [...COMPARISONS, ...IN_ORDER] : COMPARISONS
}
const FRESH: Condition = { field: 'organisation', comparison: 'contains', value: '' }
const alternatives = computed(() => given.value ?? [])
const takesValue = (c: Condition) => c.comparison !== 'filled' && c.comparison !== 'empty'

function or() {
  given.value = [...alternatives.value, [{ ...FRESH }]]
}
/** The last condition of an alternative takes that along. */
function remove(i: number, j: number) {
  given.value = alternatives.value
    .map((all, a) => (a === i ? all.filter((_, c) => c !== j) : all))
    .filter((all) => all.length)
}
// nothing meets no condition: one to fill in is there from the start
onMounted(() => {
  if (!alternatives.value.length) or()
})
</script>

<template>
  <span role="group" :aria-label="props.of">
    <template v-for="(all, i) in alternatives" :key="i">
      <span v-for="(c, j) in all" :key="j"
        >{{ j ? ' and ' : i ? ' or ' : ' '
        }}<word-select v-model="c.field" aria-label="Field" :items="known" />
        <word-select v-model="c.comparison" aria-label="Comparison" :items="comparisonsOf(c)" />
        <word-field
          v-if="takesValue(c)"
          v-model="c.value"
          class="keyword"
          aria-label="Value"
          maxlength="100" />
        <RemoveCondition @remove="remove(i, j)"
      /></span>
      {{ ' ' }}<text-btn @click="all.push({ ...FRESH })">and…</text-btn>
    </template>
    {{ ' ' }}<text-btn @click="or">or…</text-btn>
  </span>
</template>
