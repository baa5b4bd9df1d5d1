<script setup lang="ts">
import RefusedLine from '../kernel/RefusedLine.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useDoing } from '../kernel/useDoing'
import { useMe } from '../kernel/useMe'
import { useEditRows } from '../directory/queries'
import { useNoAccount } from './queries'
import { useAskAgain } from '../kernel/askAgain'
import type { Schemas } from '../api/client'

/** Contacts that came by a card and are at no account, with the accounts that they may be at. */
const { data, error, asyncStatus, refetch } = useNoAccount()
const { isAdministrator } = useMe()
const { mutateAsync } = useEditRows()
const { busy, refused, doing } = useDoing()
const askAgain = useAskAgain()
function put(contact: Schemas['NoAccount'], account: Schemas['LikelyAccount']) {
  void doing(async () => {
    await mutateAsync({
      kind: 'contacts',
      rows: [{ id: contact.id, version: contact.version, values: { account: account.key } }],
    })
    await askAgain('address-books')
    tell(`${contact.name} is at ${account.name}`)
  })
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
          <th>Addresses</th>
          <th>May be at</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in data" :key="c.id">
          <td>
            <router-link :to="`/timeline/${c.id}`">{{ c.name }}</router-link>
          </td>
          <td>{{ c.organisation || 'none' }}</td>
          <td class="mono">{{ c.addresses }}</td>
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
            <span v-if="!c.likely.length" class="quiet"
              >no account is alike; open the contact to choose one</span
            >
          </td>
        </tr>
      </tbody>
    </v-table>
  </template>
</template>
