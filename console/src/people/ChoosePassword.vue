<script setup lang="ts">
import { mdiEyeOffOutline, mdiEyeOutline } from '@mdi/js'
import { ref } from 'vue'
import RefusedLine from '../kernel/RefusedLine.vue'
import { useDoing } from '../kernel/useDoing'

/** A new password, typed once and shown if wanted; the page around it says what becomes of it. */
const props = defineProps<{ choose: (password: string) => Promise<unknown>; does: string; login: string }>()
const password = ref('')
const seen = ref(false)
const { busy, refused, doing } = useDoing()

const send = () =>
  doing(async () => {
    await props.choose(password.value)
    password.value = ''
  })
</script>

<template>
  <form @submit.prevent="send">
    <!-- for the browser's own store of passwords -->
    <v-text-field
      :model-value="login"
      label="Login"
      name="login"
      autocomplete="username"
      readonly
      tabindex="-1"
    />
    <slot />
    <v-text-field
      v-model="password"
      label="New password"
      name="new-password"
      :type="seen ? 'text' : 'password'"
      autocomplete="new-password"
      hint="At least ten characters; three or four unrelated words do well."
      persistent-hint
      required
    >
      <template #append-inner>
        <v-btn
          :icon="seen ? mdiEyeOffOutline : mdiEyeOutline"
          size="x-small"
          variant="text"
          :aria-label="seen ? 'Hide the password' : 'Show the password'"
          @click="seen = !seen"
        />
      </template>
    </v-text-field>
    <RefusedLine :refused="refused" />
    <v-btn type="submit" color="primary" :loading="busy" :disabled="!password">{{ does }}</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
}
</style>
