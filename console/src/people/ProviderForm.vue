<script setup lang="ts">
import { computed, reactive } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import CheckedSteps from '../kernel/CheckedSteps.vue'
import { tell } from '../kernel/snackbar'
import { ROLES } from './signInQueries'
import { useCheckProvider, useSaveProvider, type NewProvider, type Provider } from './providerQueries'

/** A provider, tried step by step, and which of its groups has which role here. */
const props = defineProps<{ provider: Provider | null }>()
const emit = defineEmits<{ done: [] }>()
const form = reactive({
  name: props.provider?.name ?? '',
  issuer: props.provider?.issuer ?? '',
  clientId: props.provider?.clientId ?? '',
  secret: '',
  groupsClaim: props.provider?.groupsClaim ?? 'groups',
  otherwise: props.provider?.otherwise ?? 'rep',
})
const roles = reactive((props.provider?.roles ?? []).map((r) => ({ ...r })))
const { mutateAsync: check, data: checked, error: notChecked, asyncStatus: checking } = useCheckProvider()
const { mutateAsync: save, error: notSaved, asyncStatus: saving } = useSaveProvider()
const ready = computed(() => form.name.trim() && form.issuer.trim() && form.clientId.trim())
const LIKE = 'https://login.corvane.example'
const redirect = `${location.origin}/api/session/provider`

function wanted(): NewProvider {
  return {
    name: form.name,
    issuer: form.issuer.trim(),
    clientId: form.clientId.trim(),
    // an empty field leaves the one there is
    clientSecret: form.secret || null,
    groupsClaim: form.groupsClaim,
    roles: roles.filter((r) => r.group.trim()),
    otherwise: form.otherwise,
  }
}

async function make() {
  const saved = await save({ id: props.provider?.id ?? '', body: wanted() }).catch(() => null)
  if (!saved) return
  tell(`People sign in with ${saved.name} from now on`)
  emit('done')
}
</script>

<template>
  <form class="fields" @submit.prevent="make">
    <v-text-field v-model="form.name" v-focus label="Name, as people know it" required />
    <v-text-field v-model="form.issuer" label="Issuer" :placeholder="LIKE" :readonly="!!provider" required />
    <v-text-field
      v-model="form.clientId"
      label="Client id"
      autocomplete="off"
      :readonly="!!provider"
      required
    />
    <v-text-field
      v-model="form.secret"
      :label="provider?.hasSecret ? 'Client secret (stays, if empty)' : 'Client secret'"
      type="password"
      autocomplete="new-password"
    />
    <p class="wide quiet">
      The provider has to know where its answers go:
      <span class="mono">{{ provider?.redirect ?? redirect }}</span>
    </p>
    <h3 class="wide">Roles by group</h3>
    <p v-if="!roles.length" class="wide quiet">
      Without any, a new sign-in gets the role that the person has in the directory, and administrators change
      it here.
    </p>
    <div v-for="(r, i) in roles" :key="i" class="wide row">
      <v-text-field v-model="r.group" :label="`Group ${i + 1}`" />
      <v-select v-model="r.role" :items="ROLES" :label="`Role of group ${i + 1}`" />
      <text-btn :aria-label="`Remove group ${i + 1}`" @click="roles.splice(i, 1)">Remove</text-btn>
    </div>
    <div class="wide">
      <text-btn @click="roles.push({ group: '', role: 'rep' })">Add a group</text-btn>
    </div>
    <template v-if="roles.length">
      <v-text-field v-model="form.groupsClaim" label="Claim that names groups" />
      <v-select
        v-model="form.otherwise"
        :items="[{ title: 'no way in', value: 'none' }, ...ROLES.map((r) => ({ title: r, value: r }))]"
        label="Everybody else"
      />
    </template>
    <CheckedSteps v-if="checked" class="wide" :outcome="checked" />
    <StateNote v-if="notChecked" class="wide" :error="notChecked" />
    <StateNote v-if="notSaved" class="wide" :error="notSaved" />
    <div class="wide d-flex ga-3">
      <v-btn type="submit" color="primary" :disabled="!ready" :loading="saving === 'loading'">{{
        provider ? 'Save' : 'Add'
      }}</v-btn>
      <v-btn
        variant="tonal"
        :disabled="!form.issuer.trim()"
        :loading="checking === 'loading'"
        @click="check(wanted()).catch(() => undefined)"
        >Check it</v-btn
      >
      <v-btn variant="text" @click="emit('done')">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
.row {
  display: grid;
  grid-template-columns: 1fr 160px auto;
  gap: 8px;
  align-items: center;
}
</style>
