<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useMe } from '../kernel/useMe'
import NewPassword from './NewPassword.vue'
import RemoveConnection from './RemoveConnection.vue'
import { tell } from '../kernel/snackbar'
import { useAct, useConsent, useLook } from './queries'

/** What can be done about one connection: only what its state makes sense of. */
const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const { isAdministrator } = useMe()
const { mutate: look } = useLook()
const { mutateAsync, error } = useAct()
const renewing = ref(false)
const removing = ref(false)
const LOOKED_AT = ['capturing', 'connecting', 'overdue', 'unreachable', 'broken']

const NEEDS_SIGN_IN = ['waiting-for-consent', 'needs-sign-in', 'disconnected']
const needsSignIn = computed(() => NEEDS_SIGN_IN.includes(props.connection.state))
async function act(wanted: { id: string; what: 'pause' | 'resume' | 'accept' }) {
  const account = props.connection.account
  const done = await mutateAsync(wanted).catch(() => null)
  if (!done) return
  if (wanted.what === 'pause') tell(`${account} is paused`, () => mutateAsync({ ...wanted, what: 'resume' }))
  else if (wanted.what === 'resume') tell(`${account} is captured again`)
  else tell(`${account} is accepted`)
}
const { mutate: consent, error: consentError } = useConsent()
</script>

<template>
  <span class="acts">
    <text-btn
      v-if="LOOKED_AT.includes(connection.state)"
      :aria-label="`Sync ${connection.account} now`"
      @click="look(connection.id)"
    >
      Sync now
    </text-btn>
    <text-btn
      v-if="connection.signIn === 'oauth' && needsSignIn"
      class="strong"
      @click="consent(connection.id)"
    >
      Sign in at the provider
    </text-btn>
    <text-btn
      v-else-if="connection.signIn === 'password' && needsSignIn"
      class="strong"
      @click="renewing = true"
    >
      New password
    </text-btn>
    <text-btn
      v-else-if="connection.state === 'disconnected'"
      class="strong"
      @click="act({ id: connection.id, what: 'resume' })"
    >
      Connect again
    </text-btn>
    <text-btn
      v-if="connection.state === 'refused' && isAdministrator"
      class="strong"
      :aria-label="`Accept the account ${connection.account}`"
      @click="act({ id: connection.id, what: 'accept' })"
    >
      Accept
    </text-btn>
    <text-btn
      v-if="LOOKED_AT.includes(connection.state)"
      :aria-label="`Pause ${connection.account}`"
      @click="act({ id: connection.id, what: 'pause' })"
    >
      Pause
    </text-btn>
    <text-btn
      v-if="connection.state === 'paused'"
      class="strong"
      @click="act({ id: connection.id, what: 'resume' })"
    >
      Resume
    </text-btn>
    <text-btn :aria-label="`End ${connection.account}`" @click="removing = true">End…</text-btn>
    <span v-if="error || consentError" role="alert" class="bad">{{ (error || consentError)?.message }}</span>
  </span>
  <NewPassword v-if="renewing" :connection="connection" @close="renewing = false" />
  <RemoveConnection v-if="removing" :connection="connection" @close="removing = false" />
</template>

<style scoped>
.acts {
  display: inline-flex;
  gap: 2px 4px;
}
.strong {
  font-weight: 600;
}
.bad {
  color: rgb(var(--v-theme-error));
}
</style>
