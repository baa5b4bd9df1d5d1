<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useEnd } from './queries'

const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const forGood = ref(props.connection.state === 'disconnected')
const { mutateAsync, error, asyncStatus } = useEnd()

async function end() {
  await mutateAsync({ id: props.connection.id, forGood: forGood.value }).then(
    () => emit('close'),
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="end-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="end-title">End {{ connection.account }}?</h2>
      <p class="my-3">
        <label
          ><input
            v-model="forGood"
            type="radio"
            :value="false"
            :disabled="connection.state === 'disconnected'"
          />
          Disconnect: nothing more is looked at, its secret is forgotten, what was captured stays.</label
        >
      </p>
      <p class="mb-3">
        <label
          ><input v-model="forGood" type="radio" :value="true" /> Remove for good: all that only its sources
          showed leaves the timelines.</label
        >
      </p>
      <StateNote v-if="error" :error="error" @again="end" />
      <div class="d-flex ga-3">
        <v-btn color="primary" :loading="asyncStatus === 'loading'" @click="end">{{
          forGood ? 'Remove for good' : 'Disconnect'
        }}</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
