<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Refused, answered, api } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

const login = ref('')
const password = ref('')
const refused = ref<Refused | null>(null)
const busy = ref(false)
const router = useRouter()
const route = useRoute()
const askAgain = useAskAgain()

// who is signed in already goes on
onMounted(() => answered(api.GET('/api/session')).then(onwards, () => undefined))
// at once, and not by the field's own autofocus: that comes so late that it takes the focus from whoever was quicker
const field = ref<{ focus: () => void } | null>(null)
onMounted(() => field.value?.focus())

async function onwards() {
  await askAgain('session')
  const to =
    typeof route.query.to === 'string' && /^\/(?!\/)/.test(route.query.to) ? route.query.to : '/overview'
  await router.replace(to)
}

async function signIn() {
  busy.value = true
  refused.value = null
  try {
    await answered(
      api.POST('/api/session', { body: { login: login.value, password: password.value, label: null } }),
    )
    await onwards()
  } catch (failed) {
    refused.value = failed as Refused
    password.value = ''
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="sign-in">
    <form @submit.prevent="signIn">
      <h1>Jandrel</h1>
      <p class="quiet">Customer timelines from mail and meetings, and the reason for every line.</p>
      <v-text-field ref="field" v-model="login" label="Login" name="login" autocomplete="username" required />
      <v-text-field
        v-model="password"
        label="Password"
        name="password"
        type="password"
        autocomplete="current-password"
        required
      />
      <p v-if="refused" role="alert" class="refused">
        <strong>{{ refused.message }}.</strong> {{ refused.todo }}
      </p>
      <v-btn type="submit" color="primary" :loading="busy" block>Sign in</v-btn>
    </form>
  </div>
</template>

<style scoped>
.sign-in {
  height: 100vh;
  display: grid;
  place-items: center;
}
form {
  width: 320px;
  display: grid;
  gap: 14px;
}
.refused {
  color: rgb(var(--v-theme-error));
}
</style>
