<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../shared/StateNote.vue'
import { useChoose } from './queries'

const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const chosen = ref(props.connection.sources.filter((s) => s.chosen).map((s) => s.id))
const { mutateAsync, error, asyncStatus } = useChoose()

async function choose() {
  await mutateAsync({ id: props.connection.id, chosen: chosen.value }).then(
    () => emit('close'),
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="sources-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="sources-title">What of {{ connection.account }} is looked at?</h2>
      <p class="quiet my-2">What was captured from the others stays where it is.</p>
      <p v-for="s in connection.sources" :key="s.id" class="mb-2">
        <label><input v-model="chosen" type="checkbox" :value="s.id" /> {{ s.label }}</label>
      </p>
      <StateNote v-if="error" :error="error" @again="choose" />
      <div class="d-flex ga-3 mt-3">
        <v-btn color="primary" :loading="asyncStatus === 'loading'" @click="choose">Look at these</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Leave it</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
