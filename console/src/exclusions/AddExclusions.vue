<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../shared/StateNote.vue'
import { many } from '../shared/times'
import { useAddExclusions } from './queries'

const emit = defineEmits<{ said: [sentence: string] }>()
const text = ref('')
const reason = ref('')
const { mutateAsync, error, asyncStatus } = useAddExclusions()
const count = computed(() => text.value.split(/[\n,;]/).filter((part) => part.trim()).length)

async function add() {
  const done = await mutateAsync({ text: text.value, reason: reason.value }).catch(() => null)
  if (!done) return
  text.value = ''
  reason.value = ''
  emit(
    'said',
    `${many(done.added.length, 'exclusion')} added` +
      (done.known.length ? `, ${done.known.length} there already` : '') +
      (done.reconsidering ? `; ${many(done.reconsidering, 'decision')} being made again` : ''),
  )
}
</script>

<template>
  <aside aria-label="Add exclusions">
    <h2>Add</h2>
    <form @submit.prevent="add">
      <label class="field"
        >addresses and domains, any number, with lines or commas between
        <textarea
          v-model="text"
          rows="9"
          spellcheck="false"
          placeholder="agency.example&#10;Jo Plum &lt;jo@print.example&gt;"
        ></textarea>
      </label>
      <label class="field">reason<input v-model="reason" maxlength="300" placeholder="supplier" /></label>
      <v-btn type="submit" color="primary" :disabled="!count" :loading="asyncStatus === 'loading'">
        {{ count ? `Exclude ${count.toLocaleString('en-GB')}` : 'Exclude' }}
      </v-btn>
    </form>
    <StateNote v-if="error" :error="error" @again="add" />
    <p class="quiet">
      Each line is checked before any is taken. What an exclusion covers leaves all timelines at once;
      removing it brings it back from the mailboxes and calendars.
    </p>
  </aside>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  margin: 10px 0 16px;
  justify-items: start;
}
.field {
  width: 100%;
}
</style>
