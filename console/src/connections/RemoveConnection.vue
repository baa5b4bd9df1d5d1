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
      <v-radio-group v-model="forGood" class="my-3" aria-label="How to end it">
        <v-radio
          :value="false"
          :disabled="connection.state === 'disconnected'"
          label="Disconnect: nothing more is captured, its secret is forgotten, what was captured stays."
        />
        <v-radio
          :value="true"
          label="Remove for good: everything that only this connection showed leaves the timelines."
        />
      </v-radio-group>
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
