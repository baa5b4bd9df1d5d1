<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useAddExclusions, useRemoveExclusion } from './exclusionQueries'

const props = defineProps<{ exclusion: Schemas['ExclusionInfo'] }>()
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const { mutateAsync: add } = useAddExclusions()
const { mutateAsync, error, asyncStatus } = useRemoveExclusion()

async function remove() {
  const done = await mutateAsync(props.exclusion.id).then(
    () => true,
    () => false,
  )
  if (!done) return
  const e = props.exclusion
  const again = {
    text: e.what,
    kind: e.kind,
    reason: e.reason,
    lastDay: e.lastDay ?? null,
    policy: e.policy ?? null,
  }
  tell(`${e.what} is no longer excluded; ${many(e.items, 'item')} being fetched and decided again`, () =>
    add({ body: again, mine: !!e.person }),
  )
  emit('close')
}
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="remove-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="remove-title">Remove “{{ exclusion.what }}”?</h2>
      <p class="my-3">
        {{
          exclusion.items
            ? `The ${many(exclusion.items, 'item')} that it keeps out will be fetched again and decided anew. What matches a record then stands on timelines.`
            : 'It keeps nothing out so far.'
        }}
      </p>
      <StateNote v-if="error" :error="error" @again="remove" />
      <div class="d-flex ga-3">
        <v-btn color="primary" autofocus :loading="asyncStatus === 'loading'" @click="remove">Remove</v-btn>
        <v-btn variant="text" @click="open = false">Keep</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>
