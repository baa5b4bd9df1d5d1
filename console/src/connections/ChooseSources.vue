<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useChoose, useNewCalendar } from './queries'

const props = defineProps<{ connection: Schemas['ConnectionInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const ids = (which: (s: Schemas['SourceInfo']) => boolean) =>
  props.connection.sources.filter(which).map((s) => s.id)
const chosen = ref(ids((s) => s.chosen))
const counting = ref(ids((s) => s.counts))
const countKeyword = ref(props.connection.countKeyword)
const keepOutKeyword = ref(props.connection.keepOutKeyword)
const isMail = props.connection.kind === 'imap'
const isCalendar = props.connection.kind === 'caldav'
const outgoing = ref(props.connection.sources.find((s) => s.outgoing)?.id ?? null)
const calendarName = ref('')
const { mutateAsync, error, asyncStatus } = useChoose()
const { mutateAsync: makeCalendar, error: notMade } = useNewCalendar()

async function newCalendar() {
  await makeCalendar({ id: props.connection.id, name: calendarName.value }).then(
    () => emit('close'),
    () => undefined,
  )
}

async function choose() {
  await mutateAsync({
    id: props.connection.id,
    chosen: chosen.value,
    ...(isCalendar && { outgoing: outgoing.value }),
    ...(isMail && {
      counting: counting.value,
      countKeyword: countKeyword.value,
      keepOutKeyword: keepOutKeyword.value,
    }),
  }).then(
    () => emit('close'),
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="sources-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="sources-title">What of {{ connection.account }} is looked at?</h2>
      <p class="quiet my-2">What was captured from the others stays where it is.</p>
      <p v-for="s in connection.sources" :key="s.id" class="source mb-1">
        <label><input v-model="chosen" type="checkbox" :value="s.id" /> {{ s.label }}</label>
        <label v-if="isCalendar" class="quiet"
          ><input v-model="outgoing" type="radio" name="outgoing" :value="s.id" /> meetings made here go
          there</label
        >
        <label v-if="isMail" class="quiet"
          ><input v-model="counting" type="checkbox" :value="s.id" :disabled="!chosen.includes(s.id)" /> all
          in it counts by hand</label
        >
      </p>
      <p v-if="isMail" class="mt-3">
        A message counts, even one that a program wrote, with the keyword
        <input
          v-model="countKeyword"
          class="keyword"
          aria-label="Keyword to count"
          placeholder="none"
          maxlength="60"
        />
        and stays out with the keyword
        <input
          v-model="keepOutKeyword"
          class="keyword"
          aria-label="Keyword to keep out"
          placeholder="none"
          maxlength="60"
        />, put to it in the mail program.
      </p>
      <p v-if="isCalendar" class="mt-3">
        Or make a calendar for it, named
        <input
          v-model="calendarName"
          class="keyword"
          aria-label="Name of the new calendar"
          placeholder="Customers"
          maxlength="100"
        />
        <button class="linkish" :disabled="!calendarName.trim()" @click="newCalendar">Create calendar</button>
      </p>
      <StateNote v-if="notMade" :error="notMade" @again="newCalendar" />
      <StateNote v-if="error" :error="error" @again="choose" />
      <div class="d-flex ga-3 mt-3">
        <v-btn color="primary" :loading="asyncStatus === 'loading'" @click="choose">Look at these</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.source {
  display: flex;
  justify-content: space-between;
}
.keyword {
  width: 11ch;
  border-bottom: 1px solid var(--line-strong, currentColor);
}
</style>
