<script setup lang="ts">
import { computed } from 'vue'
import { usePeople, useSummary, type Narrowed } from './decisionQueries'

const narrowed = defineModel<Narrowed>({ required: true })
defineProps<{ isNarrowed: boolean }>()
defineEmits<{ clear: [] }>()
const { data: people } = usePeople()
const { data: summary } = useSummary()
const rules = computed(() => {
  const words = new Map<string, string>()
  summary.value?.counts.forEach((c) => c.rule && words.set(c.rule, c.words))
  return [...words].sort((a, b) => a[1].localeCompare(b[1]))
})
</script>

<template>
  <div class="bar">
    <label class="field"
      >address or domain<input
        id="decision-address"
        v-model="narrowed.address"
        type="search"
        placeholder="port.example"
    /></label>
    <label class="field"
      >person<select v-model="narrowed.person">
        <option value="">anybody’s</option>
        <option v-for="p in people" :key="p.id" :value="p.id">{{ p.name }}</option>
      </select></label
    >
    <label class="field"
      >kind<select v-model="narrowed.kind">
        <option value="">mail and meetings</option>
        <option value="mail">mail</option>
        <option value="meeting">meetings</option>
      </select></label
    >
    <label class="field"
      >why left out<select v-model="narrowed.rule">
        <option value="">any reason</option>
        <option v-for="[rule, words] in rules" :key="rule" :value="rule">{{ words }}</option>
      </select></label
    >
    <label class="field">from<input v-model="narrowed.from" type="date" /></label>
    <label class="field">to<input v-model="narrowed.until" type="date" /></label>
    <button v-if="isNarrowed" class="linkish" @click="$emit('clear')">Show all, what is to come too</button>
    <span v-if="narrowed.exclusion" class="quiet">kept out by one exclusion</span>
  </div>
</template>
