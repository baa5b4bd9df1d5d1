<script setup lang="ts">
import { reactive } from 'vue'
import StateNote from '../shared/StateNote.vue'
import { usePeople } from '../decisions/queries'
import { useConnect, useServers } from './queries'

const { data: people } = usePeople()
const { data: servers } = useServers()
const { mutateAsync, error, asyncStatus } = useConnect()
const wanted = reactive({ person: '', server: '', account: '', password: '' })

function proposeAccount() {
  wanted.account = people.value?.find((p) => p.key === wanted.person)?.addresses[0] ?? ''
}

async function connect() {
  await mutateAsync({ ...wanted }).then(
    () => Object.assign(wanted, { person: '', account: '', password: '' }),
    () => undefined,
  )
}
</script>

<template>
  <aside aria-label="Connect a person">
    <h2>Connect</h2>
    <p v-if="servers && !servers.length" class="quiet mt-2">
      No server is known yet. Add one with <code>jandrel add-server</code>, then connect people here.
    </p>
    <form v-else @submit.prevent="connect">
      <label class="field"
        >person<select v-model="wanted.person" required @change="proposeAccount">
          <option v-for="p in people" :key="p.id" :value="p.key">{{ p.name }}</option>
        </select></label
      >
      <label class="field"
        >server<select v-model="wanted.server" required>
          <option v-for="s in servers" :key="s.id" :value="s.name">{{ s.name }}</option>
        </select></label
      >
      <label class="field">account there<input v-model="wanted.account" required autocomplete="off" /></label>
      <label class="field"
        >its password<input v-model="wanted.password" type="password" required autocomplete="new-password"
      /></label>
      <v-btn type="submit" color="primary" :loading="asyncStatus === 'loading'">Connect</v-btn>
    </form>
    <StateNote v-if="error" :error="error" @again="connect" />
    <p class="quiet">
      The password is encrypted with a key that is kept outside the database, and never shown again.
    </p>
  </aside>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  margin: 10px 0 14px;
  justify-items: start;
}
.field {
  width: 100%;
}
</style>
