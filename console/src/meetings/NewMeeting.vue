<script setup lang="ts">
import { computed, ref } from 'vue'
import DateField from '../kernel/DateField.vue'
import StateNote from '../kernel/StateNote.vue'
import TimeField from '../kernel/TimeField.vue'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import RecordField from '../timeline/RecordField.vue'
import PersonField from '../people/PersonField.vue'
import { LENGTHS, REMINDERS, useNewMeeting } from './useNewMeeting'

/** Something to be made, with what is known filled in. */
const props = defineProps<{
  /** When it begins, on the wall. */
  at: Date
  minutes?: number
  record?: { id: string; name: string } | null
  person?: string
}>()
const emit = defineEmits<{ close: []; made: [item: string] }>()
const open = ref(true)
const { me, isAdministrator } = useMe()
const { form, create, soon, error, asyncStatus } = useNewMeeting(props, (item) => {
  emit('made', item)
  open.value = false
})
const asksWhom = computed(() => isAdministrator.value || !me.value?.person)
const SORTS = [
  { title: 'Meeting', value: 'meeting' },
  { title: 'Call', value: 'call' },
  { title: 'Follow-up', value: 'follow-up' },
]
const INVITATIONS = [
  { title: 'As the policy says', value: '' },
  { title: 'Send', value: 'yes' },
  { title: 'Do not send', value: 'no' },
]
const lengths = LENGTHS.map((m) => ({ title: m < 60 ? `${m} min` : many(m / 60, 'hour'), value: m }))
const reminders = REMINDERS.map((m) => ({
  title: m < 0 ? 'None' : m < 60 ? `${m} min before` : `${many(m / 60, 'hour')} before`,
  value: m,
}))
</script>

<template>
  <v-dialog v-model="open" max-width="640" aria-labelledby="new-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <form @submit.prevent="create">
        <h2 id="new-title">New meeting, call or follow-up</h2>
        <p class="two">
          <v-btn size="small" variant="tonal" @click="soon(60, 'follow-up')">Follow up in an hour</v-btn>
          <v-btn size="small" variant="tonal" @click="soon(24 * 60, 'follow-up')">Follow up tomorrow</v-btn>
          <v-btn size="small" variant="tonal" @click="soon(60, 'call')">Call in an hour</v-btn>
        </p>
        <div class="two">
          <v-select v-model="form.sort" label="Kind" class="kind" :items="SORTS" />
          <v-text-field
            v-model="form.title"
            v-focus
            label="Title"
            maxlength="400"
            :required="form.sort === 'meeting'"
          />
        </div>
        <div class="two">
          <RecordField v-model="form.record" label="Record" required />
          <PersonField v-if="asksWhom" v-model="form.person" label="Person" required />
        </div>
        <div class="two">
          <DateField v-model="form.day" label="Day" required />
          <TimeField v-model="form.begins" label="Starts" />
          <v-select v-model="form.minutes" label="Lasts" :items="lengths" />
          <v-select v-model="form.reminder" label="Reminder" :items="reminders" />
        </div>
        <div class="two">
          <v-text-field v-model="form.guests" label="Guests" placeholder="bram@customer.example, …" />
          <v-select
            v-model="form.ask"
            label="Invitations"
            class="kind"
            :items="INVITATIONS"
            :disabled="!form.guests.trim()"
          />
        </div>
        <v-text-field v-model="form.place" label="Place" maxlength="400" />
        <v-textarea v-model="form.text" label="Notes" rows="2" />
        <v-checkbox v-model="form.isPrivate" label="Private: others see only that it is busy" />
        <StateNote v-if="error" :error="error" @again="create" />
        <div class="two">
          <v-btn
            type="submit"
            color="primary"
            :disabled="!form.record || !form.day"
            :loading="asyncStatus === 'loading'"
            >Create</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
}
.kind {
  flex: 0 0 180px;
}
</style>
