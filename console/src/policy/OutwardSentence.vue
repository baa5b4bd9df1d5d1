<script setup lang="ts">
import { computed } from 'vue'
import type { EditedRules } from './rules'

/** What goes out to calendars, and who wins where both sides change. */
const rules = defineModel<EditedRules>({ required: true })
const keeping = computed(() => rules.value.keeping)
const preview = computed(() =>
  keeping.value.title
    .replace('{title}', 'Signing of the contract')
    .replace('{account}', 'Port of Skarvik')
    .replace('{with}', 'Bram Holm'),
)
const KINDS = [
  { title: 'meetings', value: 'meeting' },
  { title: 'calls', value: 'call' },
  { title: 'follow-ups', value: 'follow-up' },
]
const outward = computed({
  get: () => rules.value.outward,
  set: (all: string[]) =>
    (rules.value.outward = KINDS.map((k) => k.value).filter((kind) => all.includes(kind))),
})
const RINGS = [
  { title: 'rings in the calendar', value: true },
  { title: 'does not go there', value: false },
]
const WINS = [
  { title: 'the later change is kept', value: 'later' },
  { title: 'what was entered here is kept', value: 'here' },
  { title: 'the calendar’s value is kept', value: 'calendar' },
]
const DELETION = [
  { title: 'the change is kept', value: false },
  { title: 'the deletion is kept', value: true },
]
const DELETED = [
  { title: 'leaves the calendar', value: 'remove' },
  { title: 'is marked as cancelled there', value: 'cancel' },
  { title: 'stays there', value: 'keep' },
]
const ASKS = [
  { title: 'are invited if the creator asks for it', value: false },
  { title: 'are invited unless the creator opts out', value: true },
]
</script>

<template>
  <p>
    Of what is created here,
    <word-select v-model="outward" multiple aria-label="What goes out" :items="KINDS" placeholder="nothing" />
    go out, called
    <word-field v-model="keeping.title" class="pattern" aria-label="Title there" maxlength="200" /> there
    <span class="quiet">(such as “{{ preview }}”)</span>. The reminder
    <word-select v-model="keeping.calendarRings" aria-label="Reminder" :items="RINGS" />. Where both sides
    changed the same field, <word-select v-model="keeping.wins" aria-label="Conflicts" :items="WINS" />; where
    one side deleted what the other changed,
    <word-select v-model="keeping.deletionWins" aria-label="Deleted against changed" :items="DELETION" />.
    What is deleted here
    <word-select v-model="keeping.deletedHere" aria-label="Deleted here" :items="DELETED" />. Guests
    <word-select v-model="keeping.asks" aria-label="Guests" :items="ASKS" />.
  </p>
</template>
