<script setup lang="ts">
import { ref } from 'vue'
import { answered, api } from '../api/client'
import { useMe } from '../kernel/useMe'
import { tell } from '../kernel/snackbar'
import ChoosePassword from './ChoosePassword.vue'
import NewTokenDialog from './NewTokenDialog.vue'
import SecondFactor from './SecondFactor.vue'
import SessionTable from './SessionTable.vue'
import { useSignInsChanged } from './signInQueries'

/** One's own sign-in: its password, and everything that is signed in by it. */
const { me } = useMe()
const current = ref('')
const making = ref(false)
const changed = useSignInsChanged()

async function choose(wanted: string) {
  await answered(api.PUT('/api/session/password', { body: { current: current.value, wanted } }))
  current.value = ''
  tell('Your password is changed; every other session has ended')
  await changed()
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Your sign-in</h1>
      <span v-if="me" class="quiet">{{ me.login }}, {{ me.role }}</span>
    </header>
    <div class="panes">
      <div class="pane list">
        <div class="top">
          <h2>Signed in</h2>
          <v-btn size="small" @click="making = true">New token…</v-btn>
        </div>
        <SessionTable />
      </div>
      <div class="pane detail password">
        <h2 class="mb-3">Password</h2>
        <p v-if="me && !me.password" class="quiet">
          You sign in with your company’s account. There is no password to change here.
        </p>
        <ChoosePassword v-else-if="me" :choose="choose" :login="me.login" does="Change it">
          <v-text-field
            v-model="current"
            label="Current password"
            type="password"
            autocomplete="current-password"
            required
          />
        </ChoosePassword>
        <SecondFactor v-if="me?.password" :needed="me.setUpSecondFactor" />
      </div>
    </div>
    <NewTokenDialog v-if="making" @close="making = false" />
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 10px 16px;
}
.password {
  flex: 0 0 300px !important;
  padding: 12px 16px;
}
</style>
