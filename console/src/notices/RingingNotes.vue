<script setup lang="ts">
import { mdiBellRingOutline } from '@mdi/js'
import { useRouter } from 'vue-router'
import { tellRefused } from '../kernel/snackbar'
import { clockOf, distance } from '../kernel/times'
import { useRead, useSnooze, type Notice } from './queries'

/** Reminders that are due, over whatever page is open, until they are read or put off. */
defineProps<{ notices: Notice[] }>()
const SHOWN = 3
const SNOOZE = 5
const router = useRouter()
const { mutateAsync: read } = useRead()
const { mutateAsync: snooze } = useSnooze()

function done(n: Notice) {
  read({ keys: [n.key], read: true }).catch(tellRefused)
}
function later(n: Notice) {
  snooze({ key: n.key, minutes: SNOOZE }).catch(tellRefused)
}
function opened(n: Notice) {
  done(n)
  void router.push(n.path)
}
</script>

<template>
  <div class="ringing" role="region" aria-label="Reminders" aria-live="assertive">
    <v-card v-for="n in notices.slice(0, SHOWN)" :key="n.key" class="note" elevation="6">
      <v-icon :icon="mdiBellRingOutline" color="accent" />
      <div class="what">
        <b>{{ n.title }}</b>
        <span class="quiet">
          {{ n.allDay ? 'Today' : `${clockOf(n.at)}, ${distance(n.at)}` }}
          <template v-if="n.detail">· {{ n.detail }}</template>
        </span>
        <span class="acts">
          <v-btn size="small" variant="tonal" @click="opened(n)">Open</v-btn>
          <v-btn size="small" variant="text" @click="later(n)">In {{ SNOOZE }} minutes</v-btn>
          <v-btn size="small" variant="text" @click="done(n)">Done</v-btn>
        </span>
      </div>
    </v-card>
    <v-card v-if="notices.length > SHOWN" class="note quiet" elevation="6">
      {{ notices.length - SHOWN }} more under the bell
    </v-card>
  </div>
</template>

<style scoped>
.ringing {
  position: fixed;
  z-index: 2000;
  right: 16px;
  top: 52px;
  display: grid;
  gap: 8px;
  width: 360px;
  max-width: calc(100vw - 32px);
}
.note {
  display: flex;
  gap: 12px;
  padding: 10px 12px;
}
.what {
  display: grid;
  gap: 2px;
  min-width: 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 6px;
}
</style>
