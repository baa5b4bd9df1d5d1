<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import RecordField from '../timeline/RecordField.vue'
import { useUndo } from '../triage/queries'
import { KINDS } from './columns'
import { useDirectoryChanged, useMakeRecord, withDecisions, type Kind } from './queries'

/** A record made by hand; mail and meetings that fit it are decided again. */
const props = defineProps<{ kind: Kind }>()
const open = ref(false)
const name = ref('')
const address = ref('')
const domain = ref('')
const account = ref<{ id: string; name: string } | null>(null)
const one = computed(() => KINDS.find((k) => k.value === props.kind)!.one)
const needsAccount = computed(() => props.kind === 'opportunities')
const changed = useDirectoryChanged()
const { mutateAsync: undo } = useUndo()
const router = useRouter()
const { mutateAsync, error, isLoading } = useMakeRecord()
useShortcuts([{ keys: 'c', does: 'New record', run: () => (open.value = true) }])

async function make() {
  const made = await mutateAsync({
    kind: one.value,
    name: name.value,
    ...(address.value && { address: address.value }),
    ...(account.value && { account: account.value.id }),
    ...(domain.value && { domain: domain.value }),
  }).catch(() => null)
  if (!made) return
  open.value = false
  await router.push({ path: `/timeline/${made.id}`, query: { view: 'facts' } })
  const says = made.says.charAt(0).toUpperCase() + made.says.slice(1)
  tell(withDecisions(says, made.reconsidering), async () => {
    await undo(made.deed)
    changed()
    await router.push({ path: '/directory', query: { kind: props.kind } })
  })
}
</script>

<template>
  <v-btn size="small" color="primary" :prepend-icon="mdiPlus" title="New record (c)" @click="open = true"
    >New {{ one }}</v-btn
  >
  <v-dialog v-model="open" max-width="440" aria-labelledby="new-record-title">
    <v-card class="pa-5">
      <h2 id="new-record-title" class="mb-3">New {{ one }}</h2>
      <form class="fields" @submit.prevent="make">
        <v-text-field v-model="name" v-focus label="Name" required />
        <v-text-field
          v-if="kind === 'contacts' || kind === 'leads'"
          v-model="address"
          label="Mail address"
          type="email"
          required
        />
        <v-text-field v-if="kind === 'accounts'" v-model="domain" label="Domain, such as skarvik.example" />
        <RecordField
          v-if="kind === 'contacts' || kind === 'opportunities'"
          v-model="account"
          kind="account"
          :label="needsAccount ? 'Account' : 'Account (empty: whose domain it is)'"
          :required="needsAccount"
        />
        <StateNote v-if="error" :error="error" />
        <p>
          <v-btn
            type="submit"
            variant="flat"
            color="primary"
            :disabled="!name.trim() || (needsAccount && !account)"
            :loading="isLoading"
            >Create</v-btn
          >
          <v-btn class="ml-2" variant="text" @click="open = false">Cancel</v-btn>
        </p>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
}
</style>
