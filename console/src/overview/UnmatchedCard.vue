<script setup lang="ts">
import { computed } from 'vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { useSettle, useUndo, type Stranger } from '../triage/queries'
import { useBest } from './queries'

/** The best of those who match no record; an administrator settles each by its number. */
const { isAdministrator } = useMe()
const { data } = useBest()
const { mutateAsync: settle, asyncStatus } = useSettle()
const { mutateAsync: undo } = useUndo()
const best = computed(() =>
  (data.value?.domains ?? []).flatMap((d) => d.strangers.map((s) => ({ ...s, domain: d.domain }))),
)
function why(s: Stranger): string {
  return s.likely[0]?.why ?? `${s.in} received, ${s.out} sent, ${many(s.people, 'person', 'people')} of ours`
}
/** What most likely is meant: the contact that they seem to be, or a new one at the account that is likely theirs. */
function likely(s: Stranger) {
  const contact = s.likely.find((l) => l.kind === 'contact')
  if (contact) return { choice: 'contact' as const, record: contact.id, says: `It is ${contact.name}` }
  const account = s.likely.find((l) => l.kind === 'account')
  return {
    choice: 'new-contact' as const,
    record: account?.id ?? null,
    says: account ? `New contact at ${account.name}` : 'New contact',
  }
}
async function choose(s: Stranger | undefined) {
  if (!s || !isAdministrator.value || asyncStatus.value === 'loading') return
  const { choice, record } = likely(s)
  await settle({ choice, addresses: [s.address], domains: [], record, name: null }).then(
    (done) => tell(`${done.says}: ${many(done.items, 'item')} decided again`, () => undo(done.deed)),
    tellRefused,
  )
}
useShortcuts(() =>
  isAdministrator.value
    ? best.value.map((s, i) => ({
        keys: String(i + 1),
        does: `${s.name || s.address}: ${likely(s).says}`,
        run: () => void choose(s),
      }))
    : [],
)
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Unmatched people</h2>
      <router-link v-if="data" to="/triage"
        >{{ many(data.total, 'person', 'people') }}, {{ data.waiting.toLocaleString('en-GB') }} with items on
        no timeline</router-link
      >
    </div>
    <p v-if="data && !best.length" class="quiet">Everybody on captured mail and meetings matches a record.</p>
    <div v-for="(s, i) in best" :key="s.address" class="who">
      <router-link class="clip" :to="{ path: '/triage', query: { find: s.address } }"
        ><b>{{ s.name || s.address }}</b></router-link
      >
      <span class="quiet clip" :title="`${s.domain}: ${why(s)}`">{{ s.domain }}: {{ why(s) }}</span>
      <span class="quiet nowrap">{{ many(s.items, 'item') }}</span>
      <v-btn
        v-if="isAdministrator"
        size="small"
        variant="tonal"
        :disabled="asyncStatus === 'loading'"
        :title="`${likely(s).says} (${i + 1})`"
        @click="choose(s)"
        ><span class="clip">{{ likely(s).says }}</span
        >&nbsp;<kbd>{{ i + 1 }}</kbd></v-btn
      >
    </div>
  </v-card>
</template>

<style scoped>
.who {
  display: grid;
  grid-template-columns: minmax(0, 140px) minmax(0, 1fr) auto auto;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
}
.who + .who {
  border-top: 1px solid var(--line);
}
.who .v-btn .clip {
  max-width: 190px;
}
@media (max-width: 700px) {
  .who {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
