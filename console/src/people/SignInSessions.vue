<script setup lang="ts">
import { ref } from 'vue'
import NewTokenDialog from './NewTokenDialog.vue'
import SessionTable from './SessionTable.vue'
import type { SignIn } from './signInQueries'

/** What somebody, or a program, is signed in by. */
defineProps<{ signIn: SignIn }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const making = ref(false)
</script>

<template>
  <v-dialog v-model="open" max-width="820" aria-labelledby="sessions-title" @after-leave="emit('close')">
    <v-card class="pa-5">
      <div class="d-flex justify-space-between mb-3">
        <h2 id="sessions-title">Signed in as {{ signIn.name }}</h2>
        <v-btn v-if="signIn.state === 'program'" size="small" @click="making = true">New token…</v-btn>
      </div>
      <SessionTable :sign-in="signIn.id" />
      <div class="mt-3"><v-btn variant="text" @click="open = false">Close</v-btn></div>
    </v-card>
  </v-dialog>
  <NewTokenDialog v-if="making" :sign-in="signIn.id" @close="making = false" />
</template>
