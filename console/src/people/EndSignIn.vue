<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useLeft, useSignInAct, type SignIn } from './signInQueries'

const props = defineProps<{ signIn: SignIn }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const left = ref(props.signIn.person !== null)
const { mutateAsync: end, error, asyncStatus } = useSignInAct()
const { mutateAsync: leave, error: notLeft, asyncStatus: leaving } = useLeft()

async function send() {
  const { id, name, person } = props.signIn
  const done = left.value && person ? leave(person) : end({ id, what: 'end' })
  await done.then(
    () => {
      tell(left.value ? `${name} has left: no way in is open` : `${name} cannot sign in any more`)
      open.value = false
    },
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="500" aria-labelledby="end-sign-in" @after-leave="emit('close')">
    <v-card class="pa-5">
      <h2 id="end-sign-in">End the sign-in of {{ signIn.name }}?</h2>
      <v-radio-group v-if="signIn.person" v-model="left" class="my-3" aria-label="Why it ends">
        <v-radio
          :value="true"
          label="They have left: cover ends today and their connections are paused, too."
        />
        <v-radio :value="false" label="Only the sign-in: their mail and meetings are captured as before." />
      </v-radio-group>
      <p class="my-3 quiet">
        Password, sessions, tokens and secret addresses stop working at once, everywhere. What was captured
        stays. Somebody who comes back is invited anew; none of the old ways in opens again.
      </p>
      <StateNote v-if="error || notLeft" :error="error || notLeft" @again="send" />
      <div class="d-flex ga-3">
        <v-btn color="primary" :loading="asyncStatus === 'loading' || leaving === 'loading'" @click="send">{{
          left ? 'They have left' : 'End it'
        }}</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
