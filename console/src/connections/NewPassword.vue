<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useNewPassword } from './queries'

const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const password = ref('')
const { mutateAsync, error, asyncStatus } = useNewPassword()

async function renew() {
  await mutateAsync({ id: props.connection.id, password: password.value }).then(
    () => emit('close'),
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="420" aria-labelledby="renew-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="renew-title">New password for {{ connection.account }}</h2>
      <form class="d-grid ga-3 mt-3" @submit.prevent="renew">
        <v-text-field
          v-model="password"
          v-focus
          label="Password"
          type="password"
          autocomplete="off"
          required
        />
        <StateNote v-if="error" :error="error" @again="renew" />
        <div class="d-flex ga-3 mt-3">
          <v-btn type="submit" color="primary" :loading="asyncStatus === 'loading'">Sign in again</v-btn>
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>
