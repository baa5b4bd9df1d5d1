<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import PersonField from './PersonField.vue'
import { usePeople } from './queries'
import { useAddReader } from './readerQueries'
import { ROLES } from './signInQueries'

/** A login of PostgreSQL for a program. Its password is shown once. */
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const login = ref('')
const name = ref('')
const role = ref('manager')
const person = ref('')
const teams = ref<string[]>([])
const { data: people } = usePeople()
const { mutateAsync, data, error, asyncStatus } = useAddReader()
const known = computed(() => [...new Set((people.value ?? []).map((p) => p.team).filter(Boolean))].sort())
const limitable = computed(() => role.value === 'manager' || role.value === 'auditor')
const ready = computed(() => login.value.trim() && (role.value !== 'rep' || person.value))

async function add() {
  await mutateAsync({
    login: login.value.trim(),
    name: name.value.trim() || null,
    role: role.value,
    person: person.value || null,
    teams: limitable.value && teams.value.length ? teams.value : null,
  }).catch(() => undefined)
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="reader-title" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="reader-title" class="mb-3">{{ data ? 'Copy the password now' : 'New reader' }}</h2>
      <template v-if="data">
        <p>It is shown this once. The views are in the schema {{ data.schema }}.</p>
        <v-text-field
          v-focus
          class="mono my-2"
          readonly
          :model-value="data.password"
          label="Password"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <v-text-field class="mono my-2" readonly :model-value="data.database" label="Database" />
        <v-btn @click="open = false">Done</v-btn>
      </template>
      <form v-else class="d-grid ga-3" @submit.prevent="add">
        <v-text-field
          v-model="login"
          v-focus
          label="Login"
          hint="Small letters, digits and _, a letter first"
          persistent-hint
          autocomplete="off"
          required
        />
        <v-text-field v-model="name" label="What it is for" autocomplete="off" />
        <v-select v-model="role" :items="ROLES" label="Reads what this role may read" />
        <PersonField
          v-model="person"
          by="key"
          label="As this person"
          :nobody="role === 'rep' ? undefined : 'Nobody in particular'"
        />
        <v-select
          v-if="limitable && known.length"
          v-model="teams"
          :items="known"
          label="Figures and decisions of these teams alone"
          multiple
          chips
          clearable
        />
        <StateNote v-if="error" :error="error" />
        <div class="d-flex ga-3">
          <v-btn type="submit" color="primary" :loading="asyncStatus === 'loading'" :disabled="!ready"
            >Add</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>
