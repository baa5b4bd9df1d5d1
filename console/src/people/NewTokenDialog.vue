<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { SCOPES, useMakeToken } from './signInQueries'

/** A token for a program: of one's own, or of a program's sign-in with this id. It is shown once. */
const props = defineProps<{ signIn?: string }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const label = ref('')
const days = ref(90)
const scopes = ref<string[]>(['read'])
const { mutateAsync, data, error, asyncStatus } = useMakeToken(() => props.signIn ?? '')
const ready = computed(() => label.value.trim() !== '' && scopes.value.length > 0)

async function make() {
  await mutateAsync({ label: label.value, days: Number(days.value), scopes: scopes.value }).catch(
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="token-title" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="token-title" class="mb-3">{{ data ? 'Copy the token now' : 'New token' }}</h2>
      <template v-if="data">
        <p>
          It is shown this once; Jandrel keeps a hash of it alone. It ends <WhenAt :at="data.expiresAt" />.
        </p>
        <v-text-field
          v-focus
          class="mono my-2"
          readonly
          :model-value="data.token"
          label="Token"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <v-btn @click="open = false">Done</v-btn>
      </template>
      <form v-else class="d-grid ga-3" @submit.prevent="make">
        <v-text-field v-model="label" v-focus label="What it is for" required />
        <v-text-field v-model="days" label="Days until it ends" type="number" min="1" max="366" required />
        <fieldset>
          <legend>What it may do</legend>
          <v-checkbox
            v-for="s in SCOPES"
            :key="s.value"
            v-model="scopes"
            :value="s.value"
            :label="s.title"
            density="compact"
            hide-details
          />
        </fieldset>
        <StateNote v-if="error" :error="error" />
        <div class="d-flex ga-3">
          <v-btn type="submit" color="primary" :loading="asyncStatus === 'loading'" :disabled="!ready"
            >Create token</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
}
</style>
