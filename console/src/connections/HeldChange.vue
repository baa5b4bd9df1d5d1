<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useHeld, useLetPass } from './queries'

/** Much vanished from a calendar at once: somebody looks at what that was before it leaves the timelines. */
const props = defineProps<{ source: { id: number; label: string; held: string }; book?: boolean }>()
defineEmits<{ close: [] }>()
const open = ref(true)
const { data, error, asyncStatus, refetch } = useHeld(() => props.source.id)
const { mutateAsync, error: failed } = useLetPass()
async function pass() {
  await mutateAsync(props.source.id).then(
    () => (open.value = false),
    () => undefined,
  )
}
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="held-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="held-title">{{ source.held }} from “{{ source.label }}”</h2>
      <p v-if="book" class="quiet my-2">
        Was that intended? Until somebody confirms it, this book is not read, no card is taken out of it, and
        no contact changes. If it was not, put the cards back, or bring the archived contacts back: everything
        then goes on by itself.
      </p>
      <p v-else class="quiet my-2">
        Was that intended? Until somebody confirms it, nothing leaves the timelines and this calendar is not
        read. If it was not, put the meetings back in the calendar: capture then goes on by itself.
      </p>
      <StateNote
        v-if="error || !data"
        :error="error"
        :loading="asyncStatus === 'loading'"
        @again="refetch()"
      />
      <ol v-else class="gone">
        <li v-for="(m, i) in data.meetings" :key="i">
          <WhenAt :at="m.begins" /> {{ m.title || '(for its owner alone)' }}
        </li>
      </ol>
      <StateNote v-if="failed" :error="failed" @again="pass" />
      <div class="d-flex ga-3 mt-3">
        <v-btn color="primary" @click="pass">{{ book ? 'Go on' : 'Remove them from timelines' }}</v-btn>
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.gone {
  max-height: 300px;
  overflow: auto;
  padding-left: 22px;
}
</style>
