<script setup lang="ts">
import { encode } from 'uqr'
import { computed, ref } from 'vue'
import { useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import RefusedLine from '../kernel/RefusedLine.vue'
import { useAskAgain } from '../kernel/askAgain'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useDoing } from '../kernel/useDoing'

/** A code from a phone besides the password (RFC 6238): set up, or switched off. */
defineProps<{ needed: boolean }>()
const password = ref('')
const code = ref('')
const begun = ref<Schemas['SecondFactorBegun'] | null>(null)
const recovery = ref<string[]>([])
const { busy, refused, doing } = useDoing()
const askAgain = useAskAgain()
const { data: factor } = useQuery({
  key: ['session', 'second-factor'],
  query: ({ signal }) => answered(api.GET('/api/session/second-factor', { signal })),
})
const QUIET = 4
const picture = computed(() => (begun.value ? encode(begun.value.address, { border: QUIET }) : null))
const dots = computed(
  () =>
    picture.value?.data
      .map((row, y) => row.map((on, x) => (on ? `M${x} ${y}h1v1h-1z` : '')).join(''))
      .join('') ?? '',
)

const begin = () =>
  doing(async () => {
    begun.value = await answered(
      api.POST('/api/session/second-factor', { body: { password: password.value } }),
    )
    password.value = ''
  })
const confirm = () =>
  doing(async () => {
    const { codes } = await answered(api.PUT('/api/session/second-factor', { body: { code: code.value } }))
    recovery.value = codes
    begun.value = null
    code.value = ''
    tell('Signing in takes a code from now on')
    await askAgain('session')
  })
const remove = () =>
  doing(async () => {
    await answered(api.POST('/api/session/second-factor/removal', { body: { password: password.value } }))
    password.value = ''
    tell('Signing in takes no code any more')
    await askAgain('session')
  })
</script>

<template>
  <div class="factor">
    <h2>Second factor</h2>
    <p v-if="needed" role="alert">
      <b>Administrators need a code besides their password here.</b> Set it up, and everything else opens
      again.
    </p>
    <template v-if="recovery.length">
      <p>Keep these somewhere safe: each helps once, when the phone is lost. They are shown this once.</p>
      <ul class="mono codes" aria-label="Recovery codes">
        <li v-for="c in recovery" :key="c">{{ c }}</li>
      </ul>
      <v-btn @click="recovery = []">Done</v-btn>
    </template>
    <form v-else-if="begun && picture" @submit.prevent="confirm">
      <p>Let a program for such codes on your phone read this, or type what is below it.</p>
      <svg :viewBox="`0 0 ${picture.size} ${picture.size}`" role="img" aria-label="What the phone reads">
        <rect width="100%" height="100%" fill="#fff" />
        <path :d="dots" fill="#000" />
      </svg>
      <p class="mono secret">{{ begun.secret.replace(/(.{4})(?!$)/g, '$1 ') }}</p>
      <v-text-field
        v-model="code"
        label="The code that it shows"
        inputmode="numeric"
        autocomplete="one-time-code"
        required
      />
      <v-btn type="submit" color="primary" :loading="busy" :disabled="!code">Switch it on</v-btn>
    </form>
    <form v-else-if="factor" @submit.prevent="factor.on ? remove() : begin()">
      <p class="quiet">
        {{
          factor.on
            ? `On: signing in takes a code from your phone. ${many(factor.codesLeft, 'recovery code')} left.`
            : 'A code from your phone besides the password: who learns the password alone gets nowhere.'
        }}
      </p>
      <v-text-field
        v-model="password"
        label="Your password"
        type="password"
        autocomplete="current-password"
        required
      />
      <v-btn
        type="submit"
        :color="factor.on ? undefined : 'primary'"
        :variant="factor.on ? 'tonal' : undefined"
        :loading="busy"
        :disabled="!password"
        >{{ factor.on ? 'Switch it off' : 'Set it up' }}</v-btn
      >
    </form>
    <RefusedLine :refused="refused" />
  </div>
</template>

<style scoped>
.factor,
form {
  display: grid;
  gap: 10px;
}
.factor {
  margin-top: 22px;
}
p {
  margin: 0;
}
svg {
  width: 176px;
}
.secret {
  overflow-wrap: anywhere;
}
.codes {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}
</style>
