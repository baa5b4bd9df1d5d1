<script setup lang="ts">
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useEndSession, useSessions } from './signInQueries'

/** Sessions and tokens: one's own, or those of a sign-in with this id. */
const props = defineProps<{ signIn?: string }>()
const whose = () => props.signIn ?? ''
const { data, error, asyncStatus, refetch } = useSessions(whose)
const { mutateAsync: end } = useEndSession(whose)
const KINDS: Record<string, string> = { console: 'Console', client: 'Client', made: 'Token' }

async function endOne(id: string, name: string) {
  await end(id).then(() => tell(`${name} is signed out`), tellRefused)
}
</script>

<template>
  <StateNote
    v-if="(error && !data) || !data?.length"
    :error="error"
    :loading="asyncStatus === 'loading' && !data"
    empty="Nothing is signed in"
    todo="Sessions and tokens stand here once there are some."
    @again="refetch()"
  />
  <v-table v-else class="plain">
    <thead>
      <tr>
        <th>What</th>
        <th>May</th>
        <th>Last used</th>
        <th>From</th>
        <th>Ends</th>
        <td></td>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in data" :key="s.id">
        <td>
          <b>{{ s.label || KINDS[s.kind] }}</b> <span v-if="s.current" class="quiet">this one</span>
          <span v-else-if="s.label && s.kind === 'made'" class="quiet">token</span>
        </td>
        <td class="quiet">{{ s.scopes.length ? s.scopes.join(', ') : 'everything you may' }}</td>
        <td class="nowrap">
          <WhenAt v-if="s.lastUsed" :at="s.lastUsed" /><span v-else class="quiet">never</span>
        </td>
        <td class="mono">{{ s.place }}</td>
        <td class="nowrap"><WhenAt :at="s.expiresAt" /></td>
        <td>
          <text-btn
            v-if="!s.current"
            :aria-label="`End ${s.label || KINDS[s.kind]}`"
            @click="endOne(s.id, s.label || KINDS[s.kind] || s.kind)"
            >End</text-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
</template>
