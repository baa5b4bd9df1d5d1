<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { useRecords } from './queries'
import { useAskAgain } from '../kernel/askAgain'

/** A record made of what an activity shows, with what is known filled in. */
const props = defineProps<{
  item: string
  subject: string
  people: { name: string; address: string }[]
  author: string
  phones: string[]
  accounts: { id: string; name: string }[]
}>()
const emit = defineEmits<{ close: []; made: [says: string] }>()
const open = ref(true)
const kind = ref<'contact' | 'lead' | 'account' | 'opportunity'>('contact')
const address = ref(props.people[0]?.address ?? '')
const person = computed(() => props.people.find((p) => p.address === address.value))
const domain = computed(() => address.value.slice(address.value.lastIndexOf('@') + 1))
const name = ref('')
const numbers = ref('')
const words = ref(props.accounts[0]?.name ?? '')
const { data: found } = useRecords(refDebounced(words, 150), 'account')
const account = computed(
  () =>
    props.accounts.find((a) => a.name === words.value) ??
    found.value?.records.find((r) => r.name.toLowerCase() === words.value.trim().toLowerCase()) ??
    null,
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
    emit('made', made.says)
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
          <label class="field"
            >what<select v-model="kind" aria-label="What" autofocus>
              <option value="contact">a contact</option>
              <option value="lead">a lead</option>
              <option value="account">an account</option>
              <option value="opportunity">an opportunity</option>
            </select></label
          >
          <label v-if="kind !== 'opportunity'" class="field grow"
            >of<select v-model="address" aria-label="Of whom">
              <option v-for="p in people" :key="p.address" :value="p.address">
                {{ p.name ? `${p.name}, ` : '' }}{{ p.address }}
              </option>
            </select></label
          >
        </div>
        <label class="field">called<input v-model="name" maxlength="200" required /></label>
        <label v-if="kind === 'contact' || kind === 'opportunity'" class="field"
          >at the account<input
            v-model="words"
            list="record-accounts"
            :required="kind === 'opportunity'"
            :placeholder="kind === 'contact' ? 'the one with their domain, or none' : 'part of a name'"
        /></label>
        <label v-if="kind === 'contact'" class="field"
          >telephone<input v-model="numbers" type="tel" placeholder="none, or several with a comma between"
        /></label>
        <datalist id="record-accounts">
          <option v-for="r in found?.records ?? []" :key="r.id" :value="r.name" />
        </datalist>
        <p v-if="kind === 'account'" class="quiet">Its domain is {{ domain }}.</p>
        <StateNote v-if="error" :error="error" @again="make" />
        <div class="d-flex ga-3 mt-2">
          <v-btn
            type="submit"
            color="primary"
            :disabled="
              !name.trim() ||
              (kind === 'opportunity' && !account) ||
              (!!words && !account && kind === 'contact')
            "
            :loading="asyncStatus === 'loading'"
            >Create</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
        <p class="quiet">This activity is tied to it. It can be taken back on the page Triage.</p>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 9px;
}
</style>
