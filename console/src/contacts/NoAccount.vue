<script setup lang="ts">
import RefusedLine from '../kernel/RefusedLine.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useDoing } from '../kernel/useDoing'
import { useMe } from '../kernel/useMe'
import { useEditRows, withDecisions } from '../directory/queries'
import { useUndo } from '../triage/queries'
import { useMakeAccount, useNoAccount } from './queries'
import { useAskAgain } from '../kernel/askAgain'
import type { Schemas } from '../api/client'

/** Contacts that came by a card and are at no account, with the accounts that they may be at. */
const { data, error, asyncStatus, refetch } = useNoAccount()
const { isAdministrator } = useMe()
const { mutateAsync: edit } = useEditRows()
const { mutateAsync: undo } = useUndo()
const makeAccount = useMakeAccount()
const { busy, refused, doing } = useDoing()
const askAgain = useAskAgain()
/** @returns what takes it back */
async function move(contacts: readonly Schemas['NoAccount'][], key: string) {
  const done = await edit({
    kind: 'contacts',
    rows: contacts.map((c) => ({ id: c.id, version: c.version, values: { account: key } })),
  })
  // the next click is about those that wait still
  await askAgain('address-books')
  return () => edit({ kind: 'contacts', rows: done.undo })
}
function put(contact: Schemas['NoAccount'], account: Schemas['LikelyAccount']) {
  void doing(async () => {
    const back = await move([contact], account.key)
    tell(`${contact.name} is at ${account.name}`, back)
  })
}
/** All who wait with the same company on their card. */
function colleagues(contact: Schemas['NoAccount']) {
  return (data.value ?? []).filter((c) => c.organisation === contact.organisation)
}
function make(contact: Schemas['NoAccount']) {
  const all = colleagues(contact)
  void doing(async () => {
    const { key, made } = await makeAccount(contact.organisation, contact.domain)
    const back = await move(all, key)
    const who = all.length === 1 ? `${contact.name} is` : `${all.length} contacts are`
    tell(withDecisions(`${who} at ${made.name}, a new account`, made.reconsidering), async () => {
      await back()
      await undo(made.deed)
    })
  })
}
function makes(contact: Schemas['NoAccount']): string {
  const domain = contact.domain ? ` with the domain ${contact.domain}` : ', without a domain'
  const count = colleagues(contact).length
  return `Creates the account “${contact.organisation}”${domain}, for ${many(count, 'contact')}`
}
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <StateNote
    v-else-if="!data.length"
    empty="Every contact from an address book is at an account"
    todo="One whose company is not known waits here, with the accounts that it may be."
  />
  <template v-else>
    <RefusedLine v-if="refused" :refused="refused" />
    <v-table class="plain">
      <thead>
        <tr>
          <th>Contact</th>
          <th>Company on the card</th>
          <th class="wide">Addresses</th>
          <th>May be at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in data" :key="c.id">
          <td>
            <router-link :to="`/timeline/${c.id}`">{{ c.name }}</router-link>
          </td>
          <td>{{ c.organisation || 'none' }}</td>
          <td class="mono wide">{{ c.addresses }}</td>
          <td>
            <v-btn
              v-for="l in c.likely"
              :key="l.key"
              size="small"
              variant="tonal"
              class="mr-1"
              :disabled="busy || !isAdministrator"
              :title="l.because === 'domain' ? 'Has the domain of an address' : 'Is called alike'"
              @click="put(c, l)"
              >{{ l.name }}</v-btn
            >
            <v-btn
              v-if="c.organisation"
              size="small"
              variant="outlined"
              :disabled="busy || !isAdministrator"
              :title="makes(c)"
              @click="make(c)"
              >New account</v-btn
            >
            <span v-else-if="!c.likely.length" class="quiet"
              >no company on the card; open the contact to choose an account</span
            >
          </td>
        </tr>
      </tbody>
    </v-table>
  </template>
</template>

<style scoped>
@media (max-width: 700px) {
  .wide {
    display: none;
  }
}
</style>
