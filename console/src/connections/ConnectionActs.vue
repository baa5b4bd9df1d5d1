<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { useMe } from '../kernel/useMe'
import NewPassword from './NewPassword.vue'
import RemoveConnection from './RemoveConnection.vue'
import { useAct, useConsent, useLook } from './queries'

/** What can be done about one connection: only what its state makes sense of. */
const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const { isAdministrator } = useMe()
const { mutate: look } = useLook()
const { mutate: act, error } = useAct()
const renewing = ref(false)
const removing = ref(false)
const LOOKED_AT = ['capturing', 'connecting', 'overdue', 'unreachable', 'broken']

const NEEDS_SIGN_IN = ['waiting-for-consent', 'needs-sign-in', 'disconnected']
const needsSignIn = computed(() => NEEDS_SIGN_IN.includes(props.connection.state))
const { mutate: consent, error: consentError } = useConsent()
</script>

<template>
  <span class="acts">
    <button
      v-if="LOOKED_AT.includes(connection.state)"
      class="linkish"
      :aria-label="`Look at ${connection.account} now`"
      @click="look(connection.id)"
    >
      Look now
    </button>
    <button
      v-if="connection.signIn === 'oauth' && needsSignIn"
      class="linkish strong"
      @click="consent(connection.id)"
    >
      Sign in at the provider
    </button>
    <button
      v-else-if="connection.signIn === 'password' && needsSignIn"
      class="linkish strong"
      @click="renewing = true"
    >
      New password
    </button>
    <button
      v-else-if="connection.state === 'disconnected'"
      class="linkish strong"
      @click="act({ id: connection.id, what: 'resume' })"
    >
      Connect again
    </button>
    <button
      v-if="connection.state === 'refused' && isAdministrator"
      class="linkish strong"
      :aria-label="`Accept the account ${connection.account}`"
      @click="act({ id: connection.id, what: 'accept' })"
    >
      Accept
    </button>
    <button
      v-if="LOOKED_AT.includes(connection.state)"
      class="linkish"
      :aria-label="`Pause ${connection.account}`"
      @click="act({ id: connection.id, what: 'pause' })"
    >
      Pause
    </button>
    <button
      v-if="connection.state === 'paused'"
      class="linkish strong"
      @click="act({ id: connection.id, what: 'resume' })"
    >
      Resume
    </button>
    <button class="linkish" :aria-label="`End ${connection.account}`" @click="removing = true">End…</button>
    <span v-if="error || consentError" role="alert" class="bad">{{ (error || consentError)?.message }}</span>
  </span>
  <NewPassword v-if="renewing" :connection="connection" @close="renewing = false" />
  <RemoveConnection v-if="removing" :connection="connection" @close="removing = false" />
</template>

<style scoped>
.acts {
  display: inline-flex;
  gap: 2px 10px;
}
.strong {
  font-weight: 600;
}
.bad {
  color: rgb(var(--v-theme-error));
}
</style>
