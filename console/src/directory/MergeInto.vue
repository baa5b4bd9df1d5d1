<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import RecordField from '../timeline/RecordField.vue'
import { useMerge, useUndo } from '../triage/queries'
import { useDirectoryChanged, withDecisions, type Mergeable, type Row } from './queries'

/** Makes this record a part of another of its kind, which keeps what both have. */
const props = defineProps<{ row: Row; kind: Mergeable }>()
const WHAT = {
  contact: 'with the addresses, deals and activities of both',
  account: 'with the contacts, deals, domains and activities of both',
  lead: 'with the addresses and activities of both',
}
const open = ref(false)
const stays = ref<{ id: string; name: string } | null>(null)
const { mutateAsync: merge, error, isLoading } = useMerge()
const { mutateAsync: undo } = useUndo()
const changed = useDirectoryChanged()
const router = useRouter()

async function go() {
  const into = stays.value
  if (!into) return
  const done = await merge({ stays: into.id, goes: props.row.id }).catch(() => null)
  if (!done) return
  open.value = false
  const from = props.row.id
  await router.push({ path: `/timeline/${into.id}`, query: { view: 'facts' } })
  changed()
  tell(withDecisions(done.says, done.items), async () => {
    await undo(done.deed)
    changed()
    await router.push({ path: `/timeline/${from}`, query: { view: 'facts' } })
  })
}
</script>

<template>
  <v-btn variant="tonal" @click="open = true">Merge…</v-btn>
  <v-dialog v-model="open" max-width="440" aria-labelledby="merge-title">
    <v-card class="pa-5">
      <h2 id="merge-title">Merge {{ row.values.name }} into another {{ kind }}</h2>
      <p class="quiet mb-3">
        The other one stays, {{ WHAT[kind] }}. Files may go on naming both. It can be undone.
      </p>
      <form @submit.prevent="go">
        <RecordField v-model="stays" :kind="kind" :label="`The ${kind} that stays`" required />
        <StateNote v-if="error" :error="error" />
        <p class="mt-4">
          <v-btn
            type="submit"
            variant="flat"
            color="primary"
            :disabled="!stays || stays.id === row.id"
            :loading="isLoading"
            >Merge</v-btn
          >
          <v-btn class="ml-2" variant="text" @click="open = false">Cancel</v-btn>
        </p>
      </form>
    </v-card>
  </v-dialog>
</template>
