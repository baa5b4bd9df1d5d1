<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import PersonField from './PersonField.vue'
import { ROLES, useAddSignIn, useInvite } from './signInQueries'

/** For somebody of the company by mail, for somebody else with a first password, or for a program. */
const emit = defineEmits<{ close: [] }>()
type Whose = 'person' | 'other' | 'program'
const open = ref(true)
const whose = ref<Whose>('person')
const person = ref('')
const role = ref('')
const login = ref('')
const name = ref('')
const password = ref('')
const { mutateAsync: invite, error: notInvited, asyncStatus: inviting } = useInvite()
const { mutateAsync: add, error: notAdded, asyncStatus: adding } = useAddSignIn()
const problem = ref('')
const error = computed(() => (whose.value === 'person' ? notInvited.value : notAdded.value))
const WHOSE = [
  { value: 'person', title: 'Somebody of the company, by mail' },
  { value: 'other', title: 'Somebody else, such as an auditor' },
  { value: 'program', title: 'A program' },
]
const ready = computed(() =>
  whose.value === 'person'
    ? person.value !== ''
    : login.value.trim() && name.value.trim() && role.value && (whose.value === 'program' || password.value),
)

async function make() {
  problem.value = ''
  if (whose.value === 'person') {
    const [one] = await invite({ people: [person.value], role: role.value || null }).catch(() => [])
    problem.value = one?.problem ? `${one.person} is not invited: ${one.problem}.` : ''
    if (!one || one.problem) return
    tell(`A letter to ${one.login} is on its way`)
  } else {
    const program = whose.value === 'program'
    const made = await add({
      login: login.value,
      name: name.value,
      password: program ? null : password.value,
      role: role.value,
      person: null,
      program,
    }).catch(() => null)
    if (!made) return
    tell(program ? `${made.name} is added; create a token for it` : `${made.name} can sign in`)
  }
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="add-title" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="add-title" class="mb-3">New sign-in</h2>
      <form class="d-grid ga-3" @submit.prevent="make">
        <v-radio-group v-model="whose" aria-label="Whose it is">
          <v-radio v-for="w in WHOSE" :key="w.value" :value="w.value" :label="w.title" />
        </v-radio-group>
        <PersonField v-if="whose === 'person'" v-model="person" by="key" label="Person" />
        <template v-else>
          <v-text-field v-model="login" label="Login" autocomplete="off" required />
          <v-text-field v-model="name" label="Name" autocomplete="off" required />
        </template>
        <v-select
          v-model="role"
          :items="[
            ...(whose === 'person' ? [{ title: 'What they are in the directory', value: '' }] : []),
            ...ROLES.map((r) => ({ title: r, value: r })),
          ]"
          label="Role"
        />
        <v-text-field
          v-if="whose === 'other'"
          v-model="password"
          label="Password"
          type="password"
          autocomplete="new-password"
          required
        />
        <p v-if="problem" role="alert" class="bad">{{ problem }}</p>
        <StateNote v-if="error" :error="error" />
        <div class="d-flex ga-3">
          <v-btn
            type="submit"
            color="primary"
            :disabled="!ready"
            :loading="inviting === 'loading' || adding === 'loading'"
            >{{ whose === 'person' ? 'Invite' : 'Add' }}</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.bad {
  color: rgb(var(--v-theme-error));
}
</style>
