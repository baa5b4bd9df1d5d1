<script setup lang="ts">
import { ref } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { dateText } from '../kernel/times'
import { tell, tellRefused } from '../kernel/snackbar'
import EndSignIn from './EndSignIn.vue'
import LooksAfter from './LooksAfter.vue'
import SignInSessions from './SignInSessions.vue'
import { ROLES, STATES, useRole, useSignInAct, type SignIn, type SignInAct } from './signInQueries'

defineProps<{ signIns: SignIn[]; mayChange: boolean }>()
const { mutateAsync: setRole } = useRole()
const { mutateAsync } = useSignInAct()
const ending = ref<SignIn | null>(null)
const looking = ref<SignIn | null>(null)
const limiting = ref<SignIn | null>(null)
const limitable = (s: SignIn) => s.role === 'manager' || s.role === 'auditor'
const oversight = (s: SignIn) => s.teams?.join(', ') ?? 'everybody'

function stateOf(s: SignIn): string {
  if (s.providers.length) {
    const at = `signs in with ${s.providers.join(', ')}`
    return s.state === 'active' ? `${at}, has a password` : at
  }
  if (s.state !== 'invited') return STATES[s.state] ?? s.state
  return s.invitedUntil ? `invited until ${dateText(s.invitedUntil.slice(0, 10))}` : 'invitation is over'
}

async function role(s: SignIn, to: string) {
  if (to === s.role) return
  const before = { id: s.id, role: s.role, teams: s.teams ?? null }
  await setRole({ id: s.id, role: to, teams: null }).then(
    () => tell(`${s.name} is ${to} now`, () => setRole(before)),
    tellRefused,
  )
}

async function act(s: SignIn, what: SignInAct, says: string) {
  await mutateAsync({ id: s.id, what }).then(() => tell(says), tellRefused)
}
</script>

<template>
  <v-table class="plain">
    <thead>
      <tr>
        <th>Name</th>
        <th>Login</th>
        <th>Role</th>
        <th>Looks after</th>
        <th>Team</th>
        <th>State</th>
        <th>Last seen</th>
        <th class="num">Sessions</th>
        <td v-if="mayChange"></td>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in signIns" :key="s.id" :class="{ over: s.state === 'ended' }">
        <td class="nowrap">
          <b>{{ s.name }}</b>
        </td>
        <td class="mono">{{ s.login }}</td>
        <td class="role">
          <word-select
            v-if="mayChange && s.state !== 'ended'"
            :model-value="s.role"
            :items="ROLES"
            :aria-label="`Role of ${s.name}`"
            @update:model-value="role(s, String($event))"
          />
          <template v-else>{{ s.role }}</template>
        </td>
        <td class="nowrap">
          <text-btn
            v-if="mayChange && limitable(s) && s.state !== 'ended'"
            :aria-label="`Teams that ${s.name} looks after`"
            @click="limiting = s"
            >{{ oversight(s) }}</text-btn
          >
          <template v-else-if="limitable(s)">{{ oversight(s) }}</template>
        </td>
        <td>{{ s.team }}</td>
        <td :class="{ bad: s.state === 'invited' && !s.invitedUntil }">{{ stateOf(s) }}</td>
        <td class="nowrap quiet"><WhenAt v-if="s.lastSeen" :at="s.lastSeen" only="distance" /></td>
        <td class="num">
          <text-btn
            v-if="mayChange && s.state !== 'ended'"
            :aria-label="`Sessions of ${s.name}`"
            @click="looking = s"
            >{{ s.sessions }}</text-btn
          >
          <template v-else>{{ s.sessions || '' }}</template>
        </td>
        <td v-if="mayChange" class="nowrap">
          <template v-if="s.state === 'invited' || s.state === 'first-password'">
            <text-btn
              v-if="s.person"
              :aria-label="`Invite ${s.name} again`"
              @click="act(s, 'invite', `Another letter to ${s.name} is on its way`)"
              >Invite again</text-btn
            >
            <text-btn
              v-if="s.invitedUntil"
              :aria-label="`Withdraw the invitation of ${s.name}`"
              @click="act(s, 'withdraw', `The invitation of ${s.name} works no more`)"
              >Withdraw</text-btn
            >
          </template>
          <text-btn
            v-if="s.state !== 'ended'"
            :aria-label="`End the sign-in of ${s.name}`"
            @click="ending = s"
            >End…</text-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
  <EndSignIn v-if="ending" :sign-in="ending" @close="ending = null" />
  <LooksAfter v-if="limiting" :sign-in="limiting" @close="limiting = null" />
  <SignInSessions v-if="looking" :sign-in="looking" @close="looking = null" />
</template>

<style scoped>
.bad {
  font-weight: 600;
  color: rgb(var(--v-theme-error));
}
.over {
  color: var(--quiet);
}
.role {
  min-width: 128px;
}
</style>
