<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { tell, tellRefused } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import type { Schemas } from '../api/client'
import AllowedHosts from './AllowedHosts.vue'
import ServerForm from './ServerForm.vue'
import { useServers } from './queries'
import { KINDS, WAYS, useRemoveServer } from './serverQueries'

const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useServers()
const { mutateAsync: remove } = useRemoveServer()
const adding = ref(false)
const changing = ref<Schemas['ServerInfo']>()
useShortcuts(() =>
  isAdministrator.value ? [{ keys: 'c', does: 'New server', run: () => (adding.value = true) }] : [],
)

async function end(s: Schemas['ServerInfo']) {
  await remove(s.id).then(() => tell(`${s.name} is removed`), tellRefused)
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Servers</h1>
      <span class="quiet">where mail, calendars and contacts are, and how people sign in there</span>
    </header>
    <div class="bar">
      <span class="quiet" aria-live="polite">{{ data ? many(data.length, 'server') : '…' }}</span>
      <v-btn v-if="isAdministrator" size="small" color="primary" title="New server (c)" @click="adding = true"
        >New server…</v-btn
      >
    </div>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !data?.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          empty="No server is known yet"
          todo="Add the one that your mail is at: an address of yours mostly finds it."
          @again="refetch()"
        />
        <v-table v-else class="plain">
          <thead>
            <tr>
              <th>Name</th>
              <th>Kind</th>
              <th>Where</th>
              <th>How people sign in</th>
              <td v-if="isAdministrator"></td>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in data" :key="s.id">
              <td>
                <b>{{ s.name }}</b>
              </td>
              <td>{{ KINDS.find((k) => k.value === s.kind)?.title ?? s.kind }}</td>
              <td class="mono">{{ s.host }}:{{ s.port }}{{ s.kind === 'imap' ? '' : s.path }}</td>
              <td>
                {{ WAYS.find((w) => w.value === s.signIn)?.title ?? s.signIn }}
                <span class="quiet">{{ s.issuer }}{{ s.grantLogin }}</span>
              </td>
              <td v-if="isAdministrator" class="nowrap">
                <text-btn :aria-label="`Change ${s.name}`" @click="changing = s">Change…</text-btn>
                <text-btn :aria-label="`Remove ${s.name}`" @click="end(s)">Remove</text-btn>
              </td>
            </tr>
          </tbody>
        </v-table>
        <AllowedHosts />
      </div>
    </div>
    <ServerForm v-if="adding" @close="adding = false" />
    <ServerForm v-if="changing" :key="changing.id" :existing="changing" @close="changing = undefined" />
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
</style>
