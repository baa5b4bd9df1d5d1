<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { Refused, type Schemas } from '../api/client'
import CheckedSteps from '../kernel/CheckedSteps.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { KINDS, WAYS, useAllowHost, useCheckServer, useFindServers, usePutServer } from './serverQueries'

/** A server, found by somebody's address or typed, tried step by step, and added; or one that is there, changed. */
const props = defineProps<{ existing?: Schemas['ServerInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const address = ref('')
const { mutateAsync: find, data: found, error: notFound, asyncStatus: finding } = useFindServers()
const { mutateAsync: check, data: checked, error: notChecked, asyncStatus: checking } = useCheckServer()
const { mutateAsync: put, error: notAdded, asyncStatus: adding } = usePutServer()
const { mutateAsync: allow } = useAllowHost()
const server = reactive({
  name: props.existing?.name ?? '',
  kind: props.existing?.kind ?? 'imap',
  host: props.existing?.host ?? '',
  port: props.existing?.port ?? 993,
  path: props.existing?.path ?? '/',
  signIn: props.existing?.signIn ?? 'password',
  grantLogin: props.existing?.grantLogin ?? '',
  secret: '',
  issuer: props.existing?.issuer ?? '',
  clientId: props.existing?.clientId ?? '',
  scopes: props.existing?.scopes ?? '',
  authority: props.existing?.authority ?? '',
})
const moves = computed(
  () =>
    props.existing &&
    (server.host.trim() !== props.existing.host || server.issuer.trim() !== props.existing.issuer),
)
const trial = reactive({ account: '', password: '' })
const needs = computed<readonly string[]>(() => WAYS.find((w) => w.value === server.signIn)?.needs ?? [])
const ready = computed(() => server.name.trim() !== '' && server.host.trim() !== '')
const inward = computed(() => notAdded.value instanceof Refused && notAdded.value.status === 403)

/** With the port that it mostly is at. */
function pick(kind: string) {
  server.kind = kind
  server.port = KINDS.find((k) => k.value === kind)?.port ?? server.port
}

function wanted(): Schemas['NewServer'] {
  const given = (text: string) => text.trim() || null
  return {
    name: server.name.trim(),
    kind: server.kind,
    host: server.host.trim(),
    port: Number(server.port),
    path: given(server.path),
    signIn: server.signIn,
    grantLogin: given(server.grantLogin),
    secret: given(server.secret),
    issuer: given(server.issuer),
    clientId: given(server.clientId),
    scopes: given(server.scopes),
    authority: given(server.authority),
  }
}

function take(f: Schemas['FoundServer']) {
  server.kind = f.kind
  server.host = f.host
  server.path = f.path || '/'
  server.port = f.port
  if (!server.name) server.name = { imap: 'Mail', carddav: 'Contacts' }[f.kind] ?? 'Calendars'
}

const look = () => find(address.value).catch(() => undefined)
const tryIt = () =>
  check({ server: wanted(), account: trial.account || null, password: trial.password || null }).catch(
    () => undefined,
  )

async function save() {
  const done = await put({ id: props.existing?.id, server: wanted() }).catch(() => null)
  if (!done) return
  const again = done.signInAgain
    ? `; ${many(done.signInAgain, 'account has', 'accounts have')} to sign in again`
    : ''
  tell(
    props.existing
      ? `${done.server.name} is changed${again}`
      : `${done.server.name} is added; connect people to it under Connections`,
  )
  open.value = false
}

async function allowAndSave() {
  await allow(server.host.trim())
  await save()
}
</script>

<template>
  <v-dialog
    v-model="open"
    max-width="620"
    scrollable
    aria-labelledby="server-title"
    @after-leave="emit('close')"
  >
    <v-card class="pa-5">
      <h2 id="server-title" class="mb-3">{{ existing ? `Change ${existing.name}` : 'New server' }}</h2>
      <form v-if="!existing" class="find" @submit.prevent="look">
        <v-text-field
          v-model="address"
          v-focus
          label="Somebody’s mail address, to find it by"
          placeholder="tobias.renn@corvane.example"
        />
        <v-btn type="submit" variant="tonal" :loading="finding === 'loading'" :disabled="!address.trim()"
          >Find</v-btn
        >
      </form>
      <StateNote v-if="notFound" :error="notFound" />
      <p v-else-if="found && !found.length" class="quiet">
        Nothing is announced for this address; type the server below.
      </p>
      <div v-else-if="found" class="found">
        <v-btn v-for="f in found" :key="f.kind + f.host" size="small" @click="take(f)"
          >{{ f.kind }} at {{ f.host }}:{{ f.port }}</v-btn
        >
      </div>
      <form class="fields" @submit.prevent="save">
        <v-text-field v-model="server.name" v-focus="!!existing" label="Name" required />
        <v-select
          :model-value="server.kind"
          :items="KINDS"
          label="Kind"
          :disabled="!!existing"
          @update:model-value="pick"
        />
        <v-text-field v-model="server.host" label="Host" required />
        <v-text-field v-model="server.port" label="Port" type="number" min="1" max="65535" required />
        <v-text-field v-if="server.kind !== 'imap'" v-model="server.path" label="Path" />
        <v-select
          v-model="server.signIn"
          class="wide"
          :items="WAYS"
          label="How people sign in there"
          :disabled="!!existing"
        />
        <v-text-field v-if="needs.includes('grantLogin')" v-model="server.grantLogin" label="Master login" />
        <v-text-field v-if="needs.includes('issuer')" v-model="server.issuer" label="Issuer (https)" />
        <v-text-field v-if="needs.includes('clientId')" v-model="server.clientId" label="Client id" />
        <v-text-field v-if="needs.includes('scopes')" v-model="server.scopes" label="Scopes" />
        <v-textarea
          v-if="server.signIn === 'organisation-key'"
          v-model="server.secret"
          class="wide"
          :label="existing?.hasSecret ? 'Key (PEM); empty keeps the one before' : 'Key (PEM)'"
          rows="3"
        />
        <v-text-field
          v-else-if="needs.includes('secret')"
          v-model="server.secret"
          :label="existing?.hasSecret ? 'Secret; empty keeps the one before' : 'Secret'"
          type="password"
          autocomplete="new-password"
        />
        <v-textarea
          v-model="server.authority"
          class="wide"
          label="The company’s own certificate authority (PEM), if it has one"
          rows="2"
        />
        <v-text-field v-model="trial.account" label="Account to try (may stay empty)" autocomplete="off" />
        <v-text-field
          v-model="trial.password"
          label="Its password, kept nowhere"
          type="password"
          autocomplete="new-password"
        />
        <CheckedSteps v-if="checked" class="wide" :outcome="checked" />
        <StateNote v-if="notChecked" class="wide" :error="notChecked" />
        <StateNote v-if="notAdded && !inward" class="wide" :error="notAdded" />
        <p v-if="moves" class="wide" role="status">
          What people gave to sign in was given for {{ existing!.host }}, and is sent nowhere else: everybody
          who is connected there signs in again.
        </p>
        <p v-if="inward" class="wide" role="alert">
          <b>{{ notAdded?.message }}.</b> If that is meant, it may be reached from now on:
          <text-btn @click="allowAndSave"
            >allow {{ server.host }} and {{ existing ? 'change' : 'add' }} the server</text-btn
          >
        </p>
        <div class="wide d-flex ga-3">
          <v-btn type="submit" color="primary" :disabled="!ready" :loading="adding === 'loading'">{{
            existing ? 'Save' : 'Add'
          }}</v-btn>
          <v-btn variant="tonal" :disabled="!ready" :loading="checking === 'loading'" @click="tryIt"
            >Check it</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.find {
  display: flex;
  gap: 8px;
  align-items: center;
}
.found {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 8px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin-top: 14px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
