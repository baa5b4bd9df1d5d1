<script setup lang="ts">
import { computed } from 'vue'
import { words, type EditedRules } from './rules'

/** What becomes of meetings and mail that were missed, marked private, cancelled or deleted. */
const rules = defineModel<EditedRules>({ required: true })
const missed = computed({
  get: () => (rules.value.keeping.missed ?? []).join(', '),
  set: (text: string) => {
    rules.value.keeping.missed = words(text)
  },
})
const PRIVATE = [
  { title: 'is logged for its owner alone', value: 'outline' },
  { title: 'is left out', value: 'leave-out' },
]
const CANCELLED = [
  { title: 'leaves the timeline', value: 'remove' },
  { title: 'stays, marked as cancelled', value: 'mark' },
  { title: 'stays', value: 'keep' },
]
const DELETED = [
  { title: 'leaves it too', value: 'remove' },
  { title: 'stays, marked as deleted', value: 'mark' },
  { title: 'stays', value: 'keep' },
]
const MAIL = [
  { title: 'stays', value: 'keep' },
  { title: 'stays, marked as deleted', value: 'mark' },
  { title: 'leaves the timeline', value: 'remove' },
]
</script>

<template>
  <p>
    A meeting counts as held once it has ended, unless somebody says otherwise. It counts as missed when its
    title or a category says
    <word-field
      v-model.lazy="missed"
      class="pattern"
      aria-label="Words that say missed"
      placeholder="nothing, or no-show"
      maxlength="300"
    />.
  </p>
  <p>
    What is marked private
    <word-select v-model="rules.privateItems" aria-label="Private items" :items="PRIVATE" />. A cancelled
    meeting <word-select v-model="rules.cancelled" aria-label="Cancelled meetings" :items="CANCELLED" />, and
    one deleted from its calendar
    <word-select v-model="rules.deleted" aria-label="Deleted meetings" :items="DELETED" />. Mail that its
    owner deletes or files away
    <word-select v-model="rules.deletedMail" aria-label="Mail deleted or filed away" :items="MAIL" />. Logged
    messages get the keyword
    <word-field
      v-model="rules.loggedKeyword"
      class="keyword"
      aria-label="Keyword of logged messages"
      placeholder="none"
      maxlength="60"
    />
    in their mailbox.
  </p>
</template>
