<script setup lang="ts">
import { computed, ref } from 'vue'
import SecretAddress from '../kernel/SecretAddress.vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useFeeds, useRevoke, useSubscribe } from './instep'
import PersonField from '../people/PersonField.vue'

/** Secret addresses from which a calendar program reads meetings: made once, shown once, revoked here. */
const { data, error, asyncStatus, refetch } = useFeeds()
const { mutateAsync: subscribe, error: notMade } = useSubscribe()
const { mutateAsync: revoke, error: notRevoked } = useRevoke()
const person = ref('')
const made = ref<{ name: string; address: string } | null>(null)
const failed = computed(() => notMade.value ?? notRevoked.value)
async function make() {
  if (!person.value) return
  const feed = await subscribe({ kind: 'person', id: person.value }).catch(() => null)
  if (feed?.address) made.value = { name: feed.name, address: feed.address }
}
</script>

<template>
  <div class="feeds">
    <form class="bar" @submit.prevent="make">
      <PersonField v-model="person" label="Meetings of" class="who" />
      <v-btn type="submit" size="small" color="primary" :disabled="!person">Create subscription</v-btn>
      <span class="quiet">To subscribe to a record, open its timeline.</span>
    </form>
    <div v-if="made" class="made" role="status">
      <p>
        Anyone with this address can read what you see of {{ made.name }}. It is shown this once; put it into
        your calendar program:
      </p>
      <SecretAddress :address="made.address" />
    </div>
    <StateNote v-if="failed" :error="failed" @again="refetch()" />
    <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
    <StateNote
      v-else-if="!data.length"
      empty="You have no subscriptions"
      todo="A subscription shows what you may see at that moment, outlines as busy, and nothing once it is revoked."
    />
    <v-table v-else class="plain">
      <thead>
        <tr>
          <th>Of</th>
          <th>Made</th>
          <th>Last read</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in data" :key="f.id">
          <td>
            {{ f.name }} <span class="quiet">{{ f.kind }}</span>
          </td>
          <td class="nowrap"><WhenAt :at="f.madeAt" /></td>
          <td class="nowrap">
            <WhenAt v-if="f.lastRead" :at="f.lastRead" only="distance" /><template v-else>never</template>
          </td>
          <td><text-btn @click="revoke(f.id).catch(() => undefined)">Revoke</text-btn></td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.feeds {
  padding-top: 10px;
}
.made {
  margin: 0 20px 12px;
  padding: 8px 12px;
  border-left: 3px solid var(--accent);
}
.who {
  flex: 0 0 240px;
}
</style>
