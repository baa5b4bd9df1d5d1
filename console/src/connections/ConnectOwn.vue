<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useMe } from '../kernel/useMe'
import { useConnect, useConsent } from './queries'

/** Connects what is one's own at a server that the company offers: by consent, or with a password. */
const props = defineProps<{ offers: Schemas['OfferInfo'][]; what: string; address: string }>()
const { me } = useMe()
const name = ref(props.offers[0]?.name ?? '')
const account = ref('')
const password = ref('')
const offer = computed(() => props.offers.find((o) => o.name === name.value))
const { mutateAsync: connect, error, asyncStatus } = useConnect()
const { mutateAsync: consent, error: notAsked } = useConsent()

async function make() {
  const person = me.value?.person
  if (!person || !offer.value) return
  const made = await connect({
    person: props.address,
    server: offer.value.name,
    account: account.value.trim() || props.address,
    password: password.value,
  }).catch(() => null)
  password.value = ''
  if (made && offer.value.signIn === 'oauth') await consent(made.id).catch(() => undefined)
}
</script>

<template>
  <form class="own" :aria-label="`Connect your ${what}`" @submit.prevent="make">
    <p v-if="!offers.length" class="quiet">
      Your company offers no server for your {{ what }} yet. An administrator adds it under <b>Servers</b>.
    </p>
    <template v-else>
      <v-select v-if="offers.length > 1" v-model="name" :items="offers.map((o) => o.name)" label="Where" />
      <template v-if="offer?.signIn === 'password'">
        <v-text-field v-model="account" :placeholder="address" label="Account" persistent-placeholder />
        <v-text-field
          v-model="password"
          label="Password there"
          type="password"
          autocomplete="new-password"
          required
        />
      </template>
      <p class="quiet">
        {{
          offer?.signIn === 'oauth'
            ? 'You sign in at the provider and agree; nobody here learns your password.'
            : offer?.signIn === 'password'
              ? 'It is encrypted with a key outside the database and never shown again. If your provider offers app passwords, use one.'
              : 'The company’s own sign-in opens it; you need no password here.'
        }}
      </p>
      <v-btn
        type="submit"
        color="primary"
        :disabled="offer?.signIn === 'password' && !password"
        :loading="asyncStatus === 'loading'"
        >Connect your {{ what }}</v-btn
      >
    </template>
    <StateNote v-if="error || notAsked" :error="error ?? notAsked" />
  </form>
</template>

<style scoped>
.own {
  display: grid;
  gap: 10px;
  justify-items: start;
  max-width: 360px;
}
.own > .v-input {
  width: 100%;
}
p {
  margin: 0;
}
</style>
