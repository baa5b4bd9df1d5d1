<script setup lang="ts">
import { computed, reactive } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import PersonField from '../people/PersonField.vue'
import { usePeople } from '../people/queries'
import { useConnect, useEveryone, useServers } from './queries'

const { data: people } = usePeople()
const { data: servers } = useServers()
const { mutateAsync, error, asyncStatus } = useConnect()
const wanted = reactive<{ person: string; server: string | null; account: string; password: string }>({
  person: '',
  server: null,
  account: '',
  password: '',
})

const server = computed(() => servers.value?.find((s) => s.name === wanted.server))
const forAll = computed(() => servers.value?.filter((s) => s.signIn.startsWith('organisation-')) ?? [])
const everyone = useEveryone()

const names = computed(() => (servers.value ?? []).map((s) => s.name))
function proposeAccount() {
  wanted.account = people.value?.find((p) => p.key === wanted.person)?.addresses[0] ?? ''
}

async function connect() {
  if (!wanted.person || !wanted.server) return
  await mutateAsync({ ...wanted, server: wanted.server }).then(
    () => Object.assign(wanted, { person: '', account: '', password: '' }),
    () => undefined,
  )
}
</script>

<template>
  <aside aria-label="Connect a person">
    <h2>Connect</h2>
    <p v-if="servers && !servers.length" class="quiet mt-2">
      No server is known yet. Add one under <router-link to="/servers">Servers</router-link>, then connect
      people here.
    </p>
    <form v-else @submit.prevent="connect">
      <PersonField
        v-model="wanted.person"
        by="key"
        label="Person"
        required
        @update:model-value="proposeAccount"
      />
      <v-select v-model="wanted.server" label="Server" :items="names" required />
      <v-text-field v-model="wanted.account" label="Account" required autocomplete="off" />
      <v-text-field
        v-if="server?.signIn === 'password'"
        v-model="wanted.password"
        label="Password"
        type="password"
        required
        autocomplete="new-password"
      />
      <p v-else-if="server" class="quiet">
        {{
          server.signIn === 'oauth'
            ? 'The person consents at the provider; nobody else needs their password.'
            : 'The organisation’s own sign-in opens it.'
        }}
      </p>
      <v-btn
        type="submit"
        color="primary"
        :disabled="!wanted.person || !wanted.server"
        :loading="asyncStatus === 'loading'"
        >Connect</v-btn
      >
    </form>
    <StateNote v-if="error" :error="error" @again="connect" />
    <template v-for="s in forAll" :key="s.id">
      <v-btn
        class="mb-2"
        variant="tonal"
        :loading="everyone.asyncStatus.value === 'loading'"
        @click="everyone.mutate({ server: s.name })"
        >Connect everyone at {{ s.name }}</v-btn
      >
    </template>
    <p v-if="everyone.data.value" role="status">
      {{ everyone.data.value.connected }} connected, {{ everyone.data.value.known }} were already,
      {{ everyone.data.value.skipped.length }} left.
    </p>
    <StateNote v-if="everyone.error.value" :error="everyone.error.value" />
    <p v-if="servers?.length" class="quiet">
      The password is encrypted with a key that is kept outside the database, and never shown again.
    </p>
  </aside>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  margin: 10px 0 14px;
}
</style>
