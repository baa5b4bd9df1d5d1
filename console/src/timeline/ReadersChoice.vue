<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { reactive } from 'vue'
import { answered, api } from '../api/client'
import { usePeople } from './decisionQueries'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'

/** Opens or closes one activity; for those whose own mailbox or calendar has it. */
const props = defineProps<{ id: string; ruled: boolean }>()
const { data: people } = usePeople()
const wanted = reactive({ opens: 'open', person: '' })
const askAgain = useAskAgain()
const choose = useMutation({
  mutation: (back: boolean) =>
    back
      ? answered(api.DELETE('/api/activities/{id}/readers', { params: { path: { id: props.id } } }))
      : answered(
          api.PUT('/api/activities/{id}/readers', {
            params: { path: { id: props.id } },
            body: {
              opens: wanted.opens === 'open',
              people: wanted.person ? [wanted.person] : [],
              teams: [],
            },
          }),
        ),
  onSuccess: () => askAgain('activity', 'timeline', 'decisions'),
})
</script>

<template>
  <form class="d-flex ga-2 align-center flex-wrap" @submit.prevent="choose.mutate(false)">
    <select v-model="wanted.opens" aria-label="Open or close">
      <option value="open">Open it to</option>
      <option value="close">Close it to all but</option>
    </select>
    <select v-model="wanted.person" aria-label="Person" :required="wanted.opens === 'open'">
      <option value="">{{ wanted.opens === 'open' ? 'choose…' : 'me' }}</option>
      <option v-for="p in people" :key="p.id" :value="p.key">{{ p.name }}</option>
    </select>
    <v-btn type="submit" size="small" variant="tonal" :loading="choose.asyncStatus.value === 'loading'"
      >Do it</v-btn
    >
    <button v-if="ruled" type="button" class="linkish" @click="choose.mutate(true)">Take it back</button>
  </form>
  <StateNote v-if="choose.error.value" :error="choose.error.value" />
</template>

<style scoped>
select {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 2px solid var(--accent);
}
select option {
  background: var(--surface);
}
</style>
