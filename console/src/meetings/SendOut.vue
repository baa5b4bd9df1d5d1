<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useSendOut } from './instep'

/** What was made here before it could go out: counted and shown first, then sent. */
const props = defineProps<{ person: string; name: string }>()
const emit = defineEmits<{ close: []; sent: [meetings: number] }>()
const open = ref(true)
const counted = ref<Schemas['SentOut'] | null>(null)
const { mutateAsync, error, asyncStatus } = useSendOut()
async function ask(apply: boolean) {
  const answer = await mutateAsync({ person: props.person, apply }).catch(() => null)
  if (!answer) return
  if (apply) {
    emit('sent', answer.meetings)
    open.value = false
  } else counted.value = answer
}
onMounted(() => ask(false))
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-labelledby="send-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <h2 id="send-title">Send out to the calendar of {{ name }}</h2>
      <StateNote v-if="error" :error="error" @again="ask(false)" />
      <StateNote v-else-if="!counted" loading />
      <template v-else>
        <p class="my-2">
          {{ many(counted.meetings, 'thing') }} made here would be written into it; nothing of the calendar’s
          own is touched.
        </p>
        <ol class="titles">
          <li v-for="(t, i) in counted.titles" :key="i">{{ t }}</li>
        </ol>
        <p v-if="counted.meetings > counted.titles.length" class="quiet">
          and {{ counted.meetings - counted.titles.length }} more
        </p>
      </template>
      <div class="d-flex ga-3 mt-3">
        <v-btn
          color="primary"
          :disabled="!counted?.meetings"
          :loading="asyncStatus === 'loading'"
          @click="ask(true)"
          >Send {{ counted?.meetings ?? '' }} out</v-btn
        >
        <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.titles {
  max-height: 260px;
  overflow: auto;
  padding-left: 22px;
}
</style>
