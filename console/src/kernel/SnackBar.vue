<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { said, tell } from './snackbar'
import { useShortcuts } from './shortcuts'

/** What was just done, with its undo: by the button, or by Ctrl+Z while nobody types. */
const SHOWN_MILLIS = 10_000
const busy = ref(false)
const open = computed({
  get: () => said.value !== null,
  set: (on) => {
    if (!on) said.value = null
  },
})
// a snackbar counts from when it opened, whatever it says since: another length has it begin again for what is new
const shownMillis = ref(SHOWN_MILLIS)
watch(said, () => {
  busy.value = false
  shownMillis.value = SHOWN_MILLIS + Number(shownMillis.value === SHOWN_MILLIS)
})

async function undo() {
  const done = said.value
  if (!done?.undo || busy.value) return
  busy.value = true
  await done.undo().then(
    () => tell(`Undone: ${done.says}`),
    (refused: unknown) =>
      tell(`Not undone: ${refused instanceof Error ? refused.message : 'the service did not answer'}`),
  )
  busy.value = false
}
useShortcuts([{ keys: 'Ctrl+z', does: 'Undo what was just done', run: () => void undo(), calm: true }])
</script>

<template>
  <v-snackbar v-model="open" :timeout="busy ? -1 : shownMillis" location="bottom">
    {{ said?.says }}
    <template #actions>
      <v-btn v-if="said?.undo" variant="outlined" :loading="busy" @click="undo">Undo</v-btn>
      <v-btn variant="text" @click="open = false">Close</v-btn>
    </template>
  </v-snackbar>
</template>
