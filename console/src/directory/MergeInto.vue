<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import RecordField from '../timeline/RecordField.vue'
import { useMerge, useUndo } from '../triage/queries'
import { useDirectoryChanged, withDecisions, type Row } from './queries'

/** Makes this contact a part of another, which keeps every address of both. */
const props = defineProps<{ row: Row }>()
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
      <h2 id="merge-title">Merge {{ row.values.name }} into another contact</h2>
      <p class="quiet mb-3">
        The other one stays, with the addresses, deals and activities of both. It can be undone.
      </p>
      <form @submit.prevent="go">
        <RecordField v-model="stays" kind="contact" label="The contact that stays" required />
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
