<script setup lang="ts">
import { computed, reactive } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { usePeople } from '../timeline/decisionQueries'
import { useConnect, useEveryone, useServers } from './queries'

const { data: people } = usePeople()
const { data: servers } = useServers()
const { mutateAsync, error, asyncStatus } = useConnect()
const wanted = reactive({ person: '', server: '', account: '', password: '' })

const server = computed(() => servers.value?.find((s) => s.name === wanted.server))
const forAll = computed(() => servers.value?.filter((s) => s.signIn.startsWith('organisation-')) ?? [])
const everyone = useEveryone()

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
      <label v-if="server?.signIn === 'password'" class="field"
        >its password<input v-model="wanted.password" type="password" required autocomplete="new-password"
      /></label>
      <p v-else-if="server" class="quiet">
        {{
          server.signIn === 'oauth'
            ? 'The person consents at the provider; nobody else needs their password.'
            : 'The organisation’s own sign-in opens it.'
        }}
      </p>
      <v-btn type="submit" color="primary" :loading="asyncStatus === 'loading'">Connect</v-btn>
    </form>
    <StateNote v-if="error" :error="error" @again="connect" />
    <template v-for="s in forAll" :key="s.id">
      <v-btn
        class="mb-2"
        variant="tonal"
        :loading="everyone.asyncStatus.value === 'loading'"
        @click="everyone.mutate(s.name)"
        >Connect everyone</v-btn
      >
    </template>
    <p v-if="everyone.data.value" role="status">
      {{ everyone.data.value.connected }} connected, {{ everyone.data.value.known }} were already,
      {{ everyone.data.value.skipped.length }} left.
    </p>
    <StateNote v-if="everyone.error.value" :error="everyone.error.value" />
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
