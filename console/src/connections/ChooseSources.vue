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
const isBook = props.connection.kind === 'carddav'
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
    ...((isCalendar || isBook) && { outgoing: outgoing.value }),
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
      <h2 id="sources-title">Sources of {{ connection.account }}</h2>
      <p class="quiet my-2">
        Ticked ones are captured. What was captured from the others stays on timelines.
      </p>
      <div v-for="s in connection.sources" :key="s.id" class="source">
        <v-checkbox v-model="chosen" :value="s.id" :label="s.label" />
        <v-checkbox
          v-if="isMail"
          v-model="counting"
          :value="s.id"
          :disabled="!chosen.includes(s.id)"
          label="everything in it counts"
        />
      </div>
      <v-select
        v-if="isCalendar || isBook"
        v-model="outgoing"
        class="mt-3"
        :label="isBook ? 'Contacts that go out go to' : 'Meetings created here go to'"
        :placeholder="isBook ? 'the first book' : 'no calendar'"
        persistent-placeholder
        :items="connection.sources"
        item-title="label"
        item-value="id"
      />
      <template v-if="isMail">
        <p class="quiet mt-3 mb-2">
          Keywords that people set in their mail program decide about single messages, even those that a
          program wrote.
        </p>
        <div class="two">
          <v-text-field v-model="countKeyword" label="Keyword to count" placeholder="none" maxlength="60" />
          <v-text-field
            v-model="keepOutKeyword"
            label="Keyword to keep out"
            placeholder="none"
            maxlength="60"
          />
        </div>
      </template>
      <div v-if="isCalendar" class="two mt-3">
        <v-text-field
          v-model="calendarName"
          label="Name of the new calendar"
          placeholder="Customers"
          maxlength="100"
        />
        <v-btn variant="tonal" :disabled="!calendarName.trim()" @click="newCalendar">Create calendar</v-btn>
      </div>
      <StateNote v-if="notMade" :error="notMade" @again="newCalendar" />
      <StateNote v-if="error" :error="error" @again="choose" />
      <div class="d-flex ga-3 mt-3">
        <v-btn color="primary" :loading="asyncStatus === 'loading'" @click="choose">Save</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.source {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  flex-wrap: wrap;
}
</style>
