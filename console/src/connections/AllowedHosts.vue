<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useMe } from '../kernel/useMe'
import { useAllowHost, useAllowedHosts, useForbidHost } from './serverQueries'

const { isAdministrator } = useMe()
const { data, error, refetch } = useAllowedHosts()
const { mutateAsync: allow, asyncStatus } = useAllowHost()
const { mutateAsync: forbid } = useForbidHost()
const host = ref('')

async function add() {
  const wanted = host.value.trim()
  if (!wanted) return
  await allow(wanted).then(() => {
    tell(`${wanted} may be reached`)
    host.value = ''
  }, tellRefused)
}

async function end(name: string) {
  await forbid(name).then(() => tell(`${name} is reached no longer`, () => allow(name)), tellRefused)
}
</script>

<template>
  <section v-if="data || error">
    <h2>Hosts inside your network</h2>
    <StateNote v-if="!data" :error="error" @again="refetch()" />
    <template v-else>
      <p class="quiet">
        The service reaches no address inside your own network, so that nobody can have it look around there.
        {{
          data.length
            ? 'These are allowed:'
            : 'A server of yours that is inside has to be allowed here first.'
        }}
      </p>
      <v-table v-if="data.length" class="plain">
        <thead>
          <tr>
            <th>Host</th>
            <th>Servers there</th>
            <th>Allowed by</th>
            <td v-if="isAdministrator"></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="h in data" :key="h.host">
            <td class="mono">{{ h.host }}</td>
            <td>{{ h.servers.join(', ') || '–' }}</td>
            <td>
              {{ h.allowedBy ?? 'the service’s settings' }}
              <WhenAt v-if="h.allowedAt" class="quiet" :at="h.allowedAt" />
            </td>
            <td v-if="isAdministrator" class="nowrap">
              <text-btn v-if="h.allowedBy" :aria-label="`Forbid ${h.host}`" @click="end(h.host)"
                >Forbid</text-btn
              >
            </td>
          </tr>
        </tbody>
      </v-table>
      <form v-if="isAdministrator" class="bar" @submit.prevent="add">
        <v-text-field v-model="host" label="Name or address of a host" class="host" />
        <v-btn type="submit" size="small" :loading="asyncStatus === 'loading'" :disabled="!host.trim()"
          >Allow</v-btn
        >
      </form>
    </template>
  </section>
</template>

<style scoped>
section {
  padding-block: 16px;
  max-width: 900px;
}
h2,
p {
  padding-inline: 20px;
}
form {
  padding-top: 12px;
}
.host {
  max-width: 320px;
}
</style>
