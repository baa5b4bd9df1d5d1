<script setup lang="ts">
import { computed } from 'vue'
import type { EditedRules } from './rules'

/** To what people are matched. */
const rules = defineModel<EditedRules>({ required: true })
const KINDS = [
  { title: 'contacts', value: 'contact' },
  { title: 'leads', value: 'lead' },
  { title: 'accounts', value: 'account' },
  { title: 'opportunities', value: 'opportunity' },
]
const matched = computed({
  get: () => rules.value.matched,
  set: (all: string[]) =>
    (rules.value.matched = KINDS.map((k) => k.value).filter((kind) => all.includes(kind))),
})
const TIES = [
  { title: 'the one whose account’s owner takes part counts', value: 'owner-then-recent' },
  { title: 'the most recently active counts', value: 'most-recent' },
  { title: 'the one that came here first counts', value: 'oldest' },
  { title: 'the first by key counts', value: 'first' },
  { title: 'all of them count', value: 'all' },
]
const FORWARDED = [
  { title: 'is shown, but does not count', value: false },
  { title: 'counts as a participant', value: true },
]
</script>

<template>
  <p>
    Participants are matched to
    <word-select v-model="matched" multiple aria-label="Matched to" :items="KINDS" placeholder="nothing" />.
    Where contacts share an address,
    <word-select v-model="rules.tieBreak" aria-label="Shared addresses" :items="TIES" />. The author of a
    manually forwarded message
    <word-select v-model="rules.forwarded" aria-label="Forwarded messages" :items="FORWARDED" />.
  </p>
</template>
