<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api, Refused, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'
import StateNote from '../kernel/StateNote.vue'
import ChoosePassword from './ChoosePassword.vue'
import EntryCard from './EntryCard.vue'
import { NEEDS_CODE } from './signInQueries'

/** Where an invitation, or a letter about a forgotten password, leads to: its address works once. */
const router = useRouter()
const askAgain = useAskAgain()
const opened = ref<Schemas['OpenedLink'] | null>(null)
const error = ref<Refused | null>(null)
let secret = ''
/** Who reads somebody's mail does not get past their second factor by that. */
const code = ref('')
const needsCode = ref(false)

onMounted(async () => {
  secret = window.location.hash.slice(1)
  // it stays in no history, and in no picture of the window
  window.history.replaceState(window.history.state, '', window.location.pathname)
  try {
    opened.value = await answered(api.POST('/api/session/link', { body: { secret } }))
  } catch (failed) {
    error.value = failed as Refused
  }
})

async function choose(password: string) {
  try {
    await answered(api.PUT('/api/session/link', { body: { secret, password, code: code.value || null } }))
  } catch (failed) {
    if (failed instanceof Refused && failed.status === NEEDS_CODE) needsCode.value = true
    throw failed
  }
  await askAgain('session')
  await router.replace('/overview')
}
</script>

<template>
  <EntryCard :says="opened?.purpose === 'reset' ? 'Set a new password' : 'Welcome to Jandrel'">
    <p v-if="opened" class="quiet">
      <b>{{ opened.name }}</b>, nobody but you will know your password, not even an administrator.
    </p>
    <ChoosePassword
      v-if="opened"
      :choose="choose"
      :login="opened.login"
      :does="opened.purpose === 'reset' ? 'Set it and sign in' : 'Choose it and sign in'"
    >
      <v-text-field
        v-if="needsCode"
        v-model="code"
        label="Code from your phone, or a recovery code"
        autocomplete="one-time-code"
        required
      />
    </ChoosePassword>
    <template v-else>
      <StateNote :error="error" :loading="!error" />
      <router-link v-if="error" to="/sign-in">To signing in</router-link>
    </template>
  </EntryCard>
</template>
