<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { usePeople } from './queries'
import { useRole, type SignIn } from './signInQueries'

/** Whose connections, decisions and cover a manager or an auditor gets in lists. */
const props = defineProps<{ signIn: SignIn }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const { data: people, error: unknown, refetch } = usePeople()
const { mutateAsync, error, asyncStatus } = useRole()
const everybody = ref(!props.signIn.teams)
const chosen = ref<string[]>(props.signIn.teams ?? [])
// a team that nobody is in any more can be taken away, and stays in sight until it is
const teams = computed(() =>
  [
    ...new Set([...(people.value ?? []).map((p) => p.team).filter(Boolean), ...(props.signIn.teams ?? [])]),
  ].sort(),
)

async function save() {
  const { id, name, role, teams: before } = props.signIn
  const after = everybody.value ? null : chosen.value
  await mutateAsync({ id, role, teams: after }).then(
    () => {
      tell(`${name} looks after ${after?.join(', ') ?? 'everybody'} now`, () =>
        mutateAsync({ id, role, teams: before ?? null }),
      )
      open.value = false
    },
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="looks-after" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="looks-after">Whom {{ signIn.name }} looks after</h2>
      <p class="mt-2 mb-3 quiet">
        Coverage, connections, decisions, triage and free time list these people alone. What may be read does
        not depend on it.
      </p>
      <v-radio-group v-model="everybody" aria-label="Whom they look after">
        <v-radio :value="true" label="Everybody" />
        <v-radio :value="false" label="Some teams" />
      </v-radio-group>
      <div v-if="!everybody" class="mt-1 ml-6" role="group" aria-label="Teams">
        <v-checkbox v-for="t in teams" :key="t" v-model="chosen" :value="t" :label="t" />
        <p v-if="people && !teams.length" class="quiet">
          Nobody is in a team yet: teams come with the people.
        </p>
      </div>
      <StateNote v-if="error || unknown" :error="error || unknown" @again="error ? save() : refetch()" />
      <div class="d-flex ga-3 mt-4">
        <v-btn
          color="primary"
          :disabled="!everybody && !chosen.length"
          :loading="asyncStatus === 'loading'"
          @click="save"
          >Save</v-btn
        >
        <v-btn variant="text" @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
