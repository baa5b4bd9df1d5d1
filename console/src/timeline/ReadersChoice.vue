<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { reactive } from 'vue'
import { answered, api } from '../api/client'
import PersonField from '../people/PersonField.vue'
import StateNote from '../kernel/StateNote.vue'
import { useAskAgain } from '../kernel/askAgain'

/** Opens or closes one activity; for those whose own mailbox or calendar has it. */
const props = defineProps<{ id: string; ruled: boolean }>()
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
const OPENS = [
  { title: 'Open it to', value: 'open' },
  { title: 'Close it to all but', value: 'close' },
]
</script>

<template>
  <form class="d-flex ga-2 align-center flex-wrap mt-2" @submit.prevent="choose.mutate(false)">
    <v-select v-model="wanted.opens" aria-label="Open or close" class="what" :items="OPENS" />
    <PersonField
      v-model="wanted.person"
      by="key"
      aria-label="Person"
      class="who"
      placeholder="a person"
      :nobody="wanted.opens === 'close' ? 'me' : undefined"
    />
    <v-btn
      type="submit"
      size="small"
      variant="tonal"
      :disabled="wanted.opens === 'open' && !wanted.person"
      :loading="choose.asyncStatus.value === 'loading'"
      >{{ wanted.opens === 'open' ? 'Open' : 'Close' }}</v-btn
    >
    <text-btn v-if="ruled" @click="choose.mutate(true)">Back to the policy</text-btn>
  </form>
  <StateNote v-if="choose.error.value" :error="choose.error.value" />
</template>

<style scoped>
.what {
  flex: 0 0 170px;
}
.who {
  flex: 1 1 150px;
}
</style>
