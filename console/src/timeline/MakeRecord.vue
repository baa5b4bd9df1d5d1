<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'
import { tell } from '../kernel/snackbar'
import RecordField from './RecordField.vue'

/** A record made of what an activity shows, with what is known filled in. */
const props = defineProps<{
  item: string
  subject: string
  people: { name: string; address: string }[]
  author: string
  phones: string[]
  accounts: { id: string; name: string }[]
}>()
defineEmits<{ close: [] }>()
const open = ref(true)
const kind = ref<'contact' | 'lead' | 'account' | 'opportunity'>('contact')
const address = ref(props.people[0]?.address ?? '')
const person = computed(() => props.people.find((p) => p.address === address.value))
const domain = computed(() => address.value.slice(address.value.lastIndexOf('@') + 1))
const name = ref('')
const numbers = ref('')
const account = ref<{ id: string; name: string } | null>(props.accounts[0] ?? null)
const KINDS = [
  { title: 'Contact', value: 'contact' },
  { title: 'Lead', value: 'lead' },
  { title: 'Account', value: 'account' },
  { title: 'Opportunity', value: 'opportunity' },
]
const addresses = computed(() =>
  props.people.map((p) => ({ title: p.name ? `${p.name}, ${p.address}` : p.address, value: p.address })),
)
function suggested(): string {
  if (kind.value === 'opportunity') return props.subject
  if (kind.value === 'account') {
    const label = domain.value.split('.')[0] ?? ''
    return label.charAt(0).toUpperCase() + label.slice(1)
  }
  return (
    person.value?.name ||
    address.value
      .split('@')[0]!
      .split(/[._+-]+/)
      .filter(Boolean)
      .map((part) => part.charAt(0).toUpperCase() + part.slice(1))
      .join(' ')
  )
}
watch(
  [kind, address],
  () => {
    name.value = suggested()
    // the signature is the author's
    numbers.value = address.value === props.author ? props.phones.join(', ') : ''
  },
  { immediate: true },
)
const askAgain = useAskAgain()
const { mutateAsync, error, asyncStatus } = useMutation({
  mutation: (body: Schemas['NewRecord']) => answered(api.POST('/api/records', { body })),
  onSuccess: () => {
    const all = () => void askAgain('activity', 'timeline', 'decisions', 'records', 'record', 'triage')
    all()
    // it is decided again in the background
    setTimeout(all, 1_500)
  },
})
async function make() {
  const made = await mutateAsync({
    kind: kind.value,
    name: name.value,
    item: props.item,
    ...(['contact', 'lead'].includes(kind.value) && { address: address.value }),
    ...(['contact', 'opportunity'].includes(kind.value) && account.value && { account: account.value.id }),
    ...(kind.value === 'account' && { domain: domain.value }),
    ...(kind.value === 'contact' && {
      phones: numbers.value
        .split(/[,;]/)
        .map((p) => p.trim())
        .filter(Boolean),
    }),
  }).catch(() => null)
  if (made) {
    tell(`${made.says}. It can be undone in Triage.`)
    open.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-labelledby="record-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <form @submit.prevent="make">
        <h2 id="record-title">New record from this activity</h2>
        <div class="two">
          <v-select v-model="kind" v-focus label="Kind" class="kind" :items="KINDS" />
          <v-select v-if="kind !== 'opportunity'" v-model="address" label="Person" :items="addresses" />
        </div>
        <v-text-field v-model="name" label="Name" maxlength="200" required />
        <RecordField
          v-if="kind === 'contact' || kind === 'opportunity'"
          v-model="account"
          label="Account"
          kind="account"
          :offered="accounts"
          :required="kind === 'opportunity'"
          :placeholder="kind === 'contact' ? 'the one with their domain, or none' : 'part of a name'"
        />
        <v-text-field
          v-if="kind === 'contact'"
          v-model="numbers"
          label="Telephone"
          type="tel"
          placeholder="none, or several with commas between"
        />
        <p v-if="kind === 'account'" class="quiet">Its domain is {{ domain }}.</p>
        <StateNote v-if="error" :error="error" @again="make" />
        <div class="d-flex ga-3 mt-2">
          <v-btn
            type="submit"
            color="primary"
            :disabled="!name.trim() || (kind === 'opportunity' && !account)"
            :loading="asyncStatus === 'loading'"
            >Create</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
        <p class="quiet">This activity is tied to it. It can be undone in Triage.</p>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
}
.kind {
  flex: 0 0 150px;
}
</style>
