<script setup lang="ts">
import RefusedLine from '../kernel/RefusedLine.vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useDoing } from '../kernel/useDoing'
import { useAnswerRemoved, useRemovedCards } from './queries'
import type { Schemas } from '../api/client'

/** What was removed here or in a book, where the policy has somebody say whether the other side removes it, too. */
type Removed = Schemas['RemovedCard']
const { data, error, asyncStatus, refetch } = useRemovedCards()
const { mutateAsync } = useAnswerRemoved()
const { busy, refused, doing } = useDoing()
const isHere = (r: Removed) => r.removed === 'here'
function answer(some: Removed[], choice: 'keep' | 'remove') {
  void doing(async () => {
    const { answered } = await mutateAsync({ ids: some.map((r) => r.id), choice })
    const [first] = some
    const name = first?.name ?? ''
    if (some.length > 1) tell(`${many(answered, 'removal')} answered`)
    else if (choice === 'keep') tell(`${name} stays`)
    else tell(first && isHere(first) ? `The card of ${name} is taken out of the book` : `${name} is archived`)
  })
}
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <StateNote
    v-else-if="!data.length"
    empty="Nothing waits that was removed on one side"
    todo="Where the policy asks, a contact that somebody removes here or from a book waits here until somebody says whether the other side removes it, too."
  />
  <template v-else>
    <RefusedLine v-if="refused" :refused="refused" />
    <v-table class="plain">
      <thead>
        <tr>
          <th>Contact</th>
          <th>Removed from</th>
          <th class="wide">Still in</th>
          <th class="wide">When</th>
          <td class="acts">
            <text-btn v-if="data.length > 1" :disabled="busy" @click="answer([...data], 'keep')"
              >Keep all {{ data.length }}</text-btn
            >
          </td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in data" :key="r.id">
          <td>
            <router-link v-if="r.contact" :to="`/timeline/${r.contact}`">{{ r.name }}</router-link>
            <template v-else>{{ r.name }}</template>
          </td>
          <td>{{ isHere(r) ? 'the directory' : `“${r.book}” of ${r.personName}` }}</td>
          <td class="wide">
            {{ isHere(r) ? `“${r.book}” of ${r.personName}` : 'the directory' }}
            <span v-if="r.elsewhere" class="quiet">and in {{ many(r.elsewhere, 'other book') }}</span>
          </td>
          <td class="nowrap wide"><WhenAt :at="r.since" only="distance" /></td>
          <td class="acts">
            <v-btn size="small" variant="tonal" :disabled="busy" @click="answer([r], 'keep')">{{
              isHere(r) ? 'Keep the card' : 'Keep the contact'
            }}</v-btn>
            <v-btn
              size="small"
              variant="text"
              color="error"
              :disabled="busy"
              @click="answer([r], 'remove')"
              >{{ isHere(r) ? 'Remove the card' : 'Archive the contact' }}</v-btn
            >
          </td>
        </tr>
      </tbody>
    </v-table>
  </template>
</template>

<style scoped>
.acts {
  text-align: right;
  white-space: nowrap;
}
@media (max-width: 700px) {
  .wide {
    display: none;
  }
  .acts {
    white-space: normal;
  }
}
</style>
