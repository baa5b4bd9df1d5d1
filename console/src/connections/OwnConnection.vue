<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { mdiAlertCircleOutline, mdiCheckCircleOutline, mdiProgressClock } from '@mdi/js'
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import ChooseSources from './ChooseSources.vue'
import ConnectionActs from './ConnectionActs.vue'
import { isTroubled } from './queries'
import { about, isReading, leftOf, remember, secondsLeft, seenOf, type Left } from './reading'

/** One's own mailbox or calendars: what happens there, step by step, and what can be done. */
const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const samples = ref<Left[]>([])
const choosing = ref(false)
const mail = computed(() => props.connection.kind === 'imap')
const books = computed(() => props.connection.kind === 'carddav')
const seen = computed(() => seenOf(props.connection))
const left = computed(() => leftOf(props.connection))
const logged = computed(() => props.connection.sources.reduce((n, s) => n + s.logged, 0))
const waiting = computed(() => props.connection.sources.reduce((sum, s) => sum + s.waiting, 0))
const reading = computed(() => isReading(props.connection))
const troubled = computed(() => isTroubled(props.connection))
watch([seen, left], () => (samples.value = remember(samples.value, { at: Date.now(), left: left.value })), {
  immediate: true,
})
const n = (count: number) => count.toLocaleString('en-GB')
const chosen = computed(() => props.connection.sources.filter((s) => s.chosen).map((s) => s.label))
const things = computed(() => many(seen.value, mail.value ? 'message' : 'meeting'))

interface Step {
  says: string
  state: 'done' | 'now' | 'bad'
}
const steps = computed<Step[]>(() => {
  const c = props.connection
  if (troubled.value) return [{ says: `${c.state.replaceAll('-', ' ')}: ${c.detail}`, state: 'bad' }]
  if (!reading.value) return []
  if (!c.sources.length) return [{ says: 'signing in', state: 'now' }]
  const wait = secondsLeft(samples.value)
  return [
    { says: 'signed in', state: 'done' },
    {
      says: `${mail.value ? 'folders' : books.value ? 'books' : 'calendars'} found: ${chosen.value.join(', ')}`,
      state: 'done',
    },
    {
      says: left.value
        ? `reading ${n(seen.value)} of ${n(seen.value + left.value)}, the newest first${wait === null ? '' : `; ${about(wait)}`}`
        : `reading: ${n(seen.value)} so far`,
      state: 'now',
    },
  ]
})
const ICONS = { done: mdiCheckCircleOutline, now: mdiProgressClock, bad: mdiAlertCircleOutline }
</script>

<template>
  <section :aria-label="mail ? 'Your mail' : books ? 'Your contacts' : 'Your calendars'">
    <div class="head">
      <b>{{ connection.account }}</b>
      <span class="quiet">at {{ connection.server }}</span>
      <ConnectionActs :connection="connection" />
    </div>
    <ol v-if="steps.length" class="steps" aria-live="polite">
      <li v-for="s in steps" :key="s.says" :class="s.state">
        <v-icon :icon="ICONS[s.state]" size="16" aria-hidden="true" />{{ s.says }}
      </li>
    </ol>
    <v-progress-linear
      v-if="left"
      class="my-2"
      :model-value="(100 * seen) / (seen + left)"
      :aria-label="`${n(seen)} of ${n(seen + left)} read`"
      rounded
    />
    <p v-if="!reading && !troubled">
      <b v-if="connection.state !== 'capturing'"
        >{{ connection.state.replaceAll('-', ' ') }}: {{ connection.detail }}.
      </b>
      <router-link v-if="books" to="/address-books">How your contacts compare</router-link>
      <template v-else>{{ things }} seen, {{ n(logged) }} of them on timelines</template
      ><template v-if="waiting"
        >, <router-link to="/triage">{{ n(waiting) }} waiting</router-link> until somebody says who the people
        are</template
      >.
      <span class="quiet">
        {{ connection.live ? 'News come as they happen' : 'Read every few minutes' }}, the last time
        <WhenAt v-if="connection.lastRun" :at="connection.lastRun" only="distance" /><template v-else
          >never</template
        >.
      </span>
    </p>
    <p v-if="connection.sources.length" class="quiet">
      What counts: {{ chosen.join(', ') || 'nothing' }}.
      <text-btn :aria-label="`Choose sources of ${connection.account}`" @click="choosing = true"
        >Choose…</text-btn
      >
    </p>
    <ChooseSources v-if="choosing" :connection="connection" @close="choosing = false" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
}
.steps {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  display: grid;
  gap: 4px;
}
.steps li {
  display: flex;
  gap: 6px;
  align-items: center;
}
.done {
  color: var(--quiet);
}
.bad {
  color: rgb(var(--v-theme-error));
}
p {
  margin: 6px 0 0;
}
p .quiet {
  margin: 0;
}
</style>
