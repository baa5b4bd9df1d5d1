<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ChangedMeanwhile from '../kernel/ChangedMeanwhile.vue'
import DateField from '../kernel/DateField.vue'
import StateNote from '../kernel/StateNote.vue'
import TimeField from '../kernel/TimeField.vue'
import { tell } from '../kernel/snackbar'
import { clockText, dateText } from '../kernel/times'
import { useEdited } from '../kernel/useEdited'
import { instant, minuteOf, wall, wallOf } from '../kernel/wall'
import { useChange, useDelete } from './queries'

/** A meeting's title and time, changed over what the service says; news never replace what somebody types. */
const props = defineProps<{ detail: Schemas['MeetingDetail'] }>()
const emit = defineEmits<{ gone: []; reload: [] }>()
const meeting = computed(() => props.detail.meeting)
const { form, seen, changed, news, saved, overNow } = useEdited(
  () => ({
    title: meeting.value.title,
    begins: minuteOf(wall(meeting.value.begins)),
    ask: props.detail.asks,
  }),
  () => meeting.value.id,
)
const day = computed({
  get: () => form.begins.slice(0, 10),
  set: (date) => date && (form.begins = `${date}T${form.begins.slice(11)}`),
})
const minutes = computed({
  get: () => Number(form.begins.slice(11, 13)) * 60 + Number(form.begins.slice(14, 16)),
  set: (n) => {
    const two = (x: number) => String(x).padStart(2, '0')
    form.begins = `${day.value}T${two(Math.floor(n / 60))}:${two(n % 60)}`
  },
})
const { mutateAsync: change, error: changeError, asyncStatus } = useChange()
const { mutateAsync: remove, error: removeError } = useDelete()
const failed = computed(() => changeError.value ?? removeError.value)
const NAMES = { title: 'Title', begins: 'Starts', ask: 'Invitations' }
function written(field: keyof typeof NAMES, value: string | boolean): string {
  if (typeof value === 'boolean') return value ? 'sent' : 'not sent'
  if (field !== 'begins') return value
  return `${dateText(value.slice(0, 10))} ${clockText(Number(value.slice(11, 13)) * 60 + Number(value.slice(14)))}`
}

async function save() {
  const at = (onWall: string) => instant(wallOf(onWall)!).toISOString()
  const item = meeting.value.id
  const moved = form.begins !== seen.begins
  const named = form.title !== seen.title
  const before = { ...(named && { title: seen.title }), ...(moved && { begins: at(seen.begins) }) }
  const after = { ...(named && { title: form.title }), ...(moved && { begins: at(form.begins) }) }
  const asked = form.ask !== seen.ask
  const done = await change({ item, ...after, ...(asked && { ask: form.ask }), seen: before }).catch(
    () => null,
  )
  if (done) {
    saved()
    const back = { item, ...before, ...(asked && { ask: !form.ask }), seen: after }
    tell(done.says, () => change(back))
  } else {
    // saving again replaces what the answer told of
    emit('reload')
    overNow()
  }
}
async function drop() {
  const done = await remove(meeting.value.id).catch(() => null)
  if (!done) return
  tell(done.says)
  emit('gone')
}
</script>

<template>
  <form class="change" @submit.prevent="save">
    <v-text-field v-model="form.title" label="Title" maxlength="400" required />
    <div v-if="!meeting.allDay" class="two">
      <DateField v-model="day" label="Day" required />
      <TimeField v-model="minutes" label="Starts" />
    </div>
    <v-checkbox
      v-if="detail.guests.length"
      v-model="form.ask"
      label="Send invitations and changes to guests"
    />
    <ChangedMeanwhile :news="news" :names="NAMES" :written="written" />
    <StateNote v-if="failed" :error="failed" @again="save" />
    <div class="two">
      <v-btn
        type="submit"
        size="small"
        color="primary"
        :disabled="!changed"
        :loading="asyncStatus === 'loading'"
        >Save</v-btn
      >
      <v-btn size="small" variant="text" color="error" @click="drop">Delete</v-btn>
    </div>
  </form>
</template>

<style scoped>
.change {
  display: grid;
  gap: 8px;
}
</style>
