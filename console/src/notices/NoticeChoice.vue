<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import TimeField from '../kernel/TimeField.vue'
import { tell } from '../kernel/snackbar'
import { minutesOf } from '../kernel/times'
import { zone } from '../kernel/wall'
import { useChoice, useChoose, type Choice } from './queries'
import { permission } from './ringing'

/** How this person wants to be told, on whatever device they read it. */
const open = defineModel<boolean>({ required: true })
const { data, error } = useChoice(open)
const { mutateAsync: choose, error: refused, isLoading: saving } = useChoose()
const wanted = reactive<Choice>({
  rings: true,
  mails: false,
  minutesBefore: 15,
  besideCalendar: false,
  daily: false,
  dailyAt: '07:30',
  zone: '',
})
const loaded = ref(false)
watch(
  data,
  (now) => {
    // what somebody has begun to choose stays
    if (now && !loaded.value) {
      Object.assign(wanted, now)
      loaded.value = true
    }
  },
  { immediate: true },
)
const dailyMinutes = computed({
  get: () => minutesOf(wanted.dailyAt) ?? 450,
  set: (minutes) =>
    (wanted.dailyAt = [Math.floor(minutes / 60), minutes % 60]
      .map((n) => String(n).padStart(2, '0'))
      .join(':')),
})
const allowed = ref(permission())
const hasMail = computed(() => Boolean(data.value?.address))
const MINUTES = [
  { title: 'when it begins', value: 0 },
  ...[5, 10, 15, 30].map((n) => ({ title: `${n} minutes before`, value: n })),
  { title: 'an hour before', value: 60 },
  { title: 'a day before', value: 1440 },
  { title: 'only where it has a reminder of its own', value: -1 },
]
const times = computed(() =>
  MINUTES.some((m) => m.value === wanted.minutesBefore)
    ? MINUTES
    : [{ title: `${wanted.minutesBefore} minutes before`, value: wanted.minutesBefore }, ...MINUTES],
)

async function allow() {
  await Notification.requestPermission()
  allowed.value = permission()
}
async function save() {
  await choose({ ...wanted, zone: zone() }).then(
    () => {
      tell('Saved how you are told')
      open.value = false
    },
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="480" aria-labelledby="choice-title">
    <v-card class="pa-5">
      <h2 id="choice-title">How you are told</h2>
      <p class="quiet mb-3">The same on every device you sign in on.</p>
      <StateNote v-if="error && !loaded" :error="error" />
      <StateNote v-else-if="!loaded" loading />
      <form v-else @submit.prevent="save">
        <h3>Meetings, calls and follow-ups</h3>
        <v-select v-model="wanted.minutesBefore" class="mt-2" label="Remind me" :items="times" />
        <v-checkbox v-model="wanted.rings" label="Ring in the console" />
        <p v-if="wanted.rings && allowed === 'default'" class="under">
          <v-btn size="small" variant="tonal" @click="allow">Let this browser notify me</v-btn>
          <span class="quiet"> so that you see it over other windows</span>
        </p>
        <p v-else-if="wanted.rings && allowed === 'denied'" class="quiet under">
          This browser was told not to show notifications; its settings for this site change that.
        </p>
        <v-checkbox
          v-model="wanted.mails"
          :label="hasMail ? `Mail to ${data?.address}` : 'Mail'"
          :disabled="!hasMail"
        />
        <v-checkbox v-model="wanted.besideCalendar" label="Also those that my calendar rings" />
        <h3 class="mt-3">Once a day</h3>
        <div class="daily">
          <v-checkbox v-model="wanted.daily" label="One mail with all that is unread" :disabled="!hasMail" />
          <TimeField v-if="wanted.daily && hasMail" v-model="dailyMinutes" label="At" class="at" />
        </div>
        <p v-if="!hasMail" class="quiet">
          No mail can be sent: no mail server is set up (JANDREL_SMTP_HOST), or your sign-in is no person’s.
        </p>
        <StateNote v-if="refused" :error="refused" />
        <div class="mt-4">
          <v-btn type="submit" variant="flat" color="primary" :loading="saving">Save</v-btn>
          <v-btn class="ml-2" variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.under {
  padding-left: 34px;
}
.daily {
  display: flex;
  align-items: center;
  gap: 12px;
}
.at {
  max-width: 110px;
}
</style>
