<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { tell, tellRefused } from '../kernel/snackbar'
import { useSignIns } from './signInQueries'
import ProviderForm from './ProviderForm.vue'
import {
  usePasswordRule,
  useProviders,
  useRemoveProvider,
  useSetPasswordRule,
  type Provider,
} from './providerQueries'

/** Where people sign in with the company's account, and whether passwords still open anything. */
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const editing = ref<Provider | null>(null)
const adding = ref(false)
const removing = ref('')
const { data, error, asyncStatus, refetch } = useProviders()
const { data: rule } = usePasswordRule()
const { data: signIns } = useSignIns()
const { mutateAsync: remove } = useRemoveProvider()
const { mutateAsync: set } = useSetPasswordRule()
const administrators = computed(
  () =>
    signIns.value?.filter((s) => s.role === 'administrator' && s.state === 'active').map((s) => s.login) ??
    [],
)

async function end(p: Provider) {
  await remove(p.id).then(() => tell(`${p.name} opens nothing any more`), tellRefused)
  removing.value = ''
}

async function allow(allowed: boolean, emergency: string[]) {
  const before = rule.value
  await set({ allowed, emergency, administratorsNeedCodes: before?.administratorsNeedCodes }).then(
    () =>
      tell(
        allowed ? 'Everybody may sign in with a password' : `Passwords open only ${emergency.join(', ')}`,
        before ? () => set(before) : undefined,
      ),
    tellRefused,
  )
}

async function needCodes(needed: boolean) {
  const before = rule.value
  if (!before) return
  await set({ ...before, administratorsNeedCodes: needed }).then(
    () =>
      tell(needed ? 'Administrators need a code from now on' : 'Administrators need no code', () =>
        set(before),
      ),
    tellRefused,
  )
}

function close() {
  editing.value = null
  adding.value = false
}
</script>

<template>
  <v-dialog
    v-model="open"
    max-width="620"
    scrollable
    aria-labelledby="sign-on-title"
    @after-leave="emit('close')"
  >
    <v-card class="pa-5">
      <h2 id="sign-on-title" class="mb-3">
        {{ editing ? `Change ${editing.name}` : adding ? 'New provider' : 'Single sign-on' }}
      </h2>
      <ProviderForm v-if="editing || adding" :provider="editing" @done="close" />
      <template v-else>
        <StateNote
          v-if="(error && !data) || !data?.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          empty="People sign in with passwords alone"
          todo="Add the provider that holds their company accounts (OpenID Connect)."
          @again="refetch()"
        />
        <v-table v-else class="plain">
          <thead>
            <tr>
              <th>Provider</th>
              <th>Roles by group</th>
              <th class="num">People</th>
              <td></td>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in data" :key="p.id">
              <td>
                <b>{{ p.name }}</b>
                <div class="quiet">{{ p.issuer }}</div>
              </td>
              <td>{{ p.roles.map((r) => `${r.group}: ${r.role}`).join(', ') || 'as in the directory' }}</td>
              <td class="num">{{ p.people || '' }}</td>
              <td class="nowrap">
                <template v-if="removing === p.id">
                  <span
                    >{{ many(p.people, 'person', 'people') }} would be signed out.
                    <text-btn @click="end(p)">Remove {{ p.name }}</text-btn></span
                  >
                  <text-btn @click="removing = ''">Cancel</text-btn>
                </template>
                <template v-else>
                  <text-btn :aria-label="`Change ${p.name}`" @click="editing = p">Change</text-btn>
                  <text-btn :aria-label="`Remove ${p.name}…`" @click="removing = p.id">Remove…</text-btn>
                </template>
              </td>
            </tr>
          </tbody>
        </v-table>
        <section v-if="rule" class="passwords">
          <v-switch
            :model-value="rule.administratorsNeedCodes"
            label="Administrators need a code from their phone besides a password"
            @update:model-value="needCodes(!!$event)"
          />
          <v-switch
            v-if="data?.length"
            :model-value="rule.allowed"
            label="Everybody may sign in with a password, too"
            @update:model-value="allow(!!$event, rule.emergency.length ? rule.emergency : administrators)"
          />
          <v-select
            v-if="!rule.allowed"
            :model-value="rule.emergency"
            :items="administrators"
            multiple
            label="Administrators who may, when the provider does not answer"
            @update:model-value="allow(false, $event)"
          />
        </section>
        <div class="d-flex ga-3 mt-4">
          <v-btn color="primary" @click="adding = true">New provider…</v-btn>
          <v-btn variant="text" @click="open = false">Close</v-btn>
        </div>
      </template>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.passwords {
  display: grid;
  gap: 8px;
  margin-top: 12px;
}
</style>
