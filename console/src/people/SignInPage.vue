<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api, Refused, type Schemas } from '../api/client'
import RefusedLine from '../kernel/RefusedLine.vue'
import { useAskAgain } from '../kernel/askAgain'
import { useDoing } from '../kernel/useDoing'
import ChoosePassword from './ChoosePassword.vue'
import EntryCard from './EntryCard.vue'
import WaysIn from './WaysIn.vue'
import { useWaysIn } from './providerQueries'
import { NEEDS_CODE } from './signInQueries'

type Step = 'sign-in' | 'forgotten' | 'sent' | 'choose'

const login = ref('')
const password = ref('')
const step = ref<Step>('sign-in')
const { busy, refused, doing } = useDoing()
/** Asked for once the password is right. */
const code = ref('')
const needsCode = ref(false)
const { data: ways } = useWaysIn()
/** Where passwords open nothing, their fields are for emergencies. */
const emergency = ref(false)
const withPassword = computed(() => emergency.value || ways.value?.passwords !== false)
const router = useRouter()
const route = useRoute()
const askAgain = useAskAgain()

/** Somebody who signs in meanwhile goes on by that, and is not taken along a second time by an answer that came late. */
let quicker = false
onBeforeUnmount(() => (quicker = true))
// who is signed in already goes on
onMounted(() =>
  answered(api.GET('/api/session')).then(
    // a first password has to be typed once more before another is chosen
    (me) => (quicker || me.choosePassword ? undefined : onwards(me)),
    () => undefined,
  ),
)
// at once, and not by the field's own autofocus: that comes so late that it takes the focus from somebody who was quicker
const field = ref<{ focus: () => void } | null>(null)
onMounted(() => field.value?.focus())
watch(step, async () => {
  refused.value = null
  await nextTick()
  field.value?.focus()
})

async function onwards(me: Schemas['Whoami']) {
  if (me.choosePassword) {
    step.value = 'choose'
    return
  }
  await askAgain('session')
  if (me.setUpSecondFactor) {
    await router.replace('/account')
    return
  }
  const to =
    typeof route.query.to === 'string' && /^\/(?!\/)/.test(route.query.to) ? route.query.to : '/overview'
  await router.replace(to)
}

function signIn() {
  return doing(async () => {
    quicker = true
    try {
      await onwards(
        await answered(
          api.POST('/api/session', {
            body: {
              login: login.value,
              password: password.value,
              label: null,
              device: null,
              code: code.value || null,
            },
          }),
        ),
      )
    } catch (failed) {
      if (failed instanceof Refused && failed.status === NEEDS_CODE) {
        needsCode.value = true
        return
      }
      if (!needsCode.value) password.value = ''
      code.value = ''
      throw failed
    }
  })
}

function forgotten() {
  return doing(async () => {
    await answered(api.POST('/api/session/forgotten', { body: { login: login.value } }))
    step.value = 'sent'
  })
}

async function choose(wanted: string) {
  await answered(api.PUT('/api/session/password', { body: { current: password.value, wanted } }))
  await onwards(await answered(api.GET('/api/session')))
}
</script>

<template>
  <EntryCard v-if="step === 'choose'" says="Choose a password of your own">
    <p class="quiet">The first one was given to you by somebody else, and is good for this alone.</p>
    <ChoosePassword :choose="choose" :login="login" does="Choose it and go on" />
  </EntryCard>
  <EntryCard v-else-if="step === 'sent'" says="Look into your mail">
    <p>
      If there is a sign-in <b>{{ login }}</b> of somebody with a mail address, a letter is on its way. Its
      link works once, for an hour.
    </p>
    <v-btn @click="step = 'sign-in'">Back to signing in</v-btn>
  </EntryCard>
  <EntryCard v-else :says="step === 'forgotten' ? 'Forgot your password?' : 'Jandrel'">
    <WaysIn v-if="step === 'sign-in'" />
    <v-btn v-if="!withPassword" variant="text" size="small" @click="emergency = true"
      >Emergency sign-in with a password</v-btn
    >
    <form v-else @submit.prevent="step === 'forgotten' ? forgotten() : signIn()">
      <p class="quiet">
        {{
          step === 'forgotten'
            ? 'You get a letter with a link, at the address of yours that your company knows.'
            : 'Customer timelines from mail and meetings, and the reason for every line.'
        }}
      </p>
      <v-text-field ref="field" v-model="login" label="Login" name="login" autocomplete="username" required />
      <v-text-field
        v-if="step === 'sign-in'"
        v-model="password"
        label="Password"
        name="password"
        type="password"
        autocomplete="current-password"
        required
      />
      <v-text-field
        v-if="step === 'sign-in' && needsCode"
        v-model="code"
        v-focus
        label="Code from your phone, or a recovery code"
        inputmode="text"
        autocomplete="one-time-code"
        required
      />
      <RefusedLine :refused="refused" />
      <v-btn type="submit" color="primary" :loading="busy" block>{{
        step === 'forgotten' ? 'Send the letter' : 'Sign in'
      }}</v-btn>
      <v-btn variant="text" size="small" @click="step = step === 'forgotten' ? 'sign-in' : 'forgotten'">{{
        step === 'forgotten' ? 'Back to signing in' : 'Forgot your password?'
      }}</v-btn>
    </form>
  </EntryCard>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
}
</style>
