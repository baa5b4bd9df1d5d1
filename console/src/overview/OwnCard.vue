<script setup lang="ts">
import { computed } from 'vue'
import { useConnections } from '../connections/queries'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { everything, today, useDecisions } from '../timeline/decisionQueries'

/** One's own connections, and what of theirs was left out today and why. */
const SHOWN = 5
const NAMES: Record<string, string> = { imap: 'mail', caldav: 'calendar', carddav: 'contacts' }
const { me } = useMe()
const { data: connections } = useConnections()
const own = computed(() => (connections.value ?? []).filter((c) => c.person === me.value?.person))
const wanted = computed(() => ({ ...everything, verdict: 'left-out', from: today(), until: today() }))
const { data: decisions } = useDecisions(wanted)
const leftOut = computed(() => decisions.value?.pages[0])
const rows = computed(() => ({
  path: '/decisions',
  query: { verdict: 'left-out', from: today(), until: today() },
}))
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Your connections</h2>
      <router-link to="/mailbox">Your mailbox</router-link>
    </div>
    <p v-if="connections && !own.length" class="quiet">Nothing of yours is connected yet.</p>
    <p v-for="c in own" :key="c.id" class="line">
      <b>{{ NAMES[c.kind] ?? 'created here' }}</b>
      <span :class="{ bad: c.detail }">{{ c.state.replaceAll('-', ' ') }}</span>
      <span class="quiet clip">{{ c.detail }}</span>
      <WhenAt v-if="c.lastRun" class="quiet nowrap" :at="c.lastRun" only="distance" />
    </p>
    <h3 class="mt-3">
      Left out today
      <router-link v-if="leftOut" :to="rows">{{ many(leftOut.total, 'item') }}</router-link>
    </h3>
    <p v-for="d in leftOut?.decisions.slice(0, SHOWN)" :key="d.id" class="line">
      <WhenAt class="quiet nowrap" :at="d.at" only="clock" /><span class="clip" :title="d.trail.at(-1)">{{
        d.trail.at(-1)
      }}</span>
    </p>
  </v-card>
</template>

<style scoped>
.line {
  display: flex;
  gap: 10px;
  padding: 4px 0;
}
.line + .line {
  border-top: 1px solid var(--line);
}
.line > .clip {
  flex: 1;
}
.bad {
  color: rgb(var(--v-theme-error));
  font-weight: 600;
}
</style>
