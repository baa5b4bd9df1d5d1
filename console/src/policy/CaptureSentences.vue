<script setup lang="ts">
import { computed } from 'vue'
import { words, type EditedRules } from './rules'

/** What is captured: mail and its folders, meetings, how far back and ahead, and how often. */
const rules = defineModel<EditedRules>({ required: true })
const IS = [
  { title: 'is captured', value: true },
  { title: 'is not captured', value: false },
]
const MEETINGS = [
  { title: 'come in from their calendars', value: 'in' },
  { title: 'are not captured', value: 'none' },
  { title: 'go out to their calendars', value: 'out' },
  { title: 'flow both ways', value: 'both' },
]
const SERIES = [
  { title: 'count, each occurrence by itself', value: 'each-occurrence' },
  { title: 'are left out', value: 'leave-out' },
]
const OFTEN = [0, 1, 5, 15, 30, 60, 240, 1440].map((m) => ({
  title:
    m === 0
      ? 'at the service’s own pace'
      : `every ${m === 1 ? 'minute' : m < 60 ? `${m} minutes` : m === 60 ? 'hour' : `${m / 60} hours`}`,
  value: m,
}))
function folders(which: 'include' | 'exclude') {
  return computed({
    get: () => rules.value.folders[which].join(', '),
    set: (text: string) => {
      rules.value.folders = { ...rules.value.folders, [which]: words(text) }
    },
  })
}
const include = folders('include')
const exclude = folders('exclude')
</script>

<template>
  <p>
    Mail that comes in
    <word-select v-model="rules.received" aria-label="Mail that comes in" :items="IS" /> and mail that they
    write <word-select v-model="rules.sent" aria-label="Mail that they write" :items="IS" />. Unless a
    mailbox’s owner has chosen folders, it is captured from
    <word-field
      v-model.lazy="include"
      class="pattern"
      aria-label="Folders"
      placeholder="inbox, sent, archive"
      maxlength="500"
      title="Roles (inbox, sent, archive) and names, with * for any characters"
    />
    but not from
    <word-field
      v-model.lazy="exclude"
      class="pattern"
      aria-label="Folders left out"
      placeholder="drafts, junk and trash"
      maxlength="500"
      title="Names, with * for any characters; drafts, junk and trash never are"
    />.
  </p>
  <p>
    Meetings <word-select v-model="rules.meetings" aria-label="Meetings" :items="MEETINGS" />, up to
    <word-field
      v-model.number="rules.aheadDays"
      class="days"
      type="number"
      min="0"
      max="36525"
      aria-label="Days ahead"
    />
    days ahead. Recurring ones
    <word-select v-model="rules.series" aria-label="Recurring meetings" :items="SERIES" />.
  </p>
  <p>
    Capture begins
    <word-field
      v-model.number="rules.backDays"
      class="days"
      type="number"
      min="0"
      max="36525"
      aria-label="Days back"
    />
    days before somebody connects. Each source is read
    <template v-if="rules.times.length">at {{ rules.times.join(', ') }} (UTC)</template>
    <word-select v-else v-model="rules.everyMinutes" aria-label="How often" :items="OFTEN" />.
  </p>
</template>
