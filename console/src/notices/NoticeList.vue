<script setup lang="ts">
import {
  mdiAccountQuestionOutline,
  mdiBellRingOutline,
  mdiCallMerge,
  mdiEmailAlertOutline,
  mdiKeyAlertOutline,
  mdiPauseOctagonOutline,
} from '@mdi/js'
import { computed } from 'vue'
import { tellRefused } from '../kernel/snackbar'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { clockOf } from '../kernel/times'
import { useRead, type Notice } from './queries'

/** All of them, the unread in bold; one is read once it is opened. */
const props = defineProps<{
  notices?: Notice[]
  error: Error | null
  loading: boolean
  heading: string
}>()
const emit = defineEmits<{ close: []; choose: [] }>()
const ICONS: Record<string, string> = {
  reminder: mdiBellRingOutline,
  connection: mdiEmailAlertOutline,
  token: mdiKeyAlertOutline,
  held: mdiPauseOctagonOutline,
  conflict: mdiCallMerge,
  strangers: mdiAccountQuestionOutline,
}
const { mutateAsync: read } = useRead()
const unread = computed(() => props.notices?.filter((n) => !n.read && !n.snoozedUntil) ?? [])

function mark(keys: string[], isRead: boolean) {
  read({ keys, read: isRead }).catch(tellRefused)
}
function opened(n: Notice) {
  if (!n.read) mark([n.key], true)
  emit('close')
}
</script>

<template>
  <header class="head">
    <h2>{{ heading }}</h2>
    <v-btn
      v-if="unread.length"
      size="small"
      variant="text"
      @click="
        mark(
          unread.map((n) => n.key),
          true,
        )
      "
      >Mark all read</v-btn
    >
    <v-btn size="small" variant="text" @click="emit('choose')">Choose how</v-btn>
  </header>
  <StateNote v-if="error && !notices" :error="error" />
  <StateNote v-else-if="loading && !notices" loading />
  <p v-else-if="!notices?.length" class="quiet empty">
    Nothing needs you now. Reminders of your meetings come here, and what goes wrong with your connections and
    calendars.
  </p>
  <ul v-else class="list">
    <li v-for="n in notices" :key="n.key" :class="{ unread: !n.read && !n.snoozedUntil }">
      <v-icon :icon="ICONS[n.kind] ?? mdiBellRingOutline" size="18" />
      <router-link class="what" :to="n.path" @click="opened(n)">
        <span class="title">{{ n.title }}</span>
        <span v-if="n.detail" class="quiet detail">{{ n.detail }}</span>
        <span v-if="n.snoozedUntil" class="quiet detail">Put off until {{ clockOf(n.snoozedUntil) }}</span>
      </router-link>
      <span class="quiet when">
        <WhenAt v-if="n.kind === 'reminder'" :at="n.at" :all-day="n.allDay" />
        <WhenAt v-else-if="n.kind !== 'held'" :at="n.at" only="day" />
      </span>
      <text-btn @click="mark([n.key], !n.read)">{{ n.read ? 'Unread' : 'Read' }}</text-btn>
    </li>
  </ul>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 8px 8px 8px 14px;
  border-bottom: 1px solid var(--line);
}
h2 {
  flex: 1;
}
.empty {
  padding: 16px 14px;
}
.list {
  list-style: none;
  padding: 0;
  max-height: min(60vh, 520px);
  overflow-y: auto;
}
li {
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: center;
  padding: 7px 10px 7px 14px;
}
li + li {
  border-top: 1px solid var(--line);
}
.what {
  display: grid;
  color: inherit;
  text-decoration: none;
}
.what:hover .title {
  text-decoration: underline;
}
.title,
.detail {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.unread .title {
  font-weight: 650;
}
.detail {
  font-size: 0.93em;
}
.when {
  font-size: 0.93em;
  white-space: nowrap;
}
</style>
