<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed } from 'vue'
import { answered, api } from '../api/client'
import { many } from '../kernel/times'
import ConditionList from './ConditionList.vue'
import type { EditedRules } from './rules'

/** When unmatched people become records by themselves, and whom that would be now. */
const rules = defineModel<EditedRules>({ required: true })
defineProps<{ policy?: string }>()
const creation = computed(() => rules.value.creation)
const MAKES = [
  { title: 'become contacts or leads only when somebody decides so', value: 'nothing' },
  { title: 'become contacts by themselves', value: 'contacts' },
  { title: 'become leads by themselves', value: 'leads' },
]
/** Those that are yes or no count as 1 or 0. */
const FIELDS = [
  { title: 'mail both ways (1 or 0)', value: 'two-way' },
  { title: 'an account has their domain (1 or 0)', value: 'at-account' },
  { title: 'a public mail provider (1 or 0)', value: 'free-mail' },
  { title: 'meetings', value: 'meetings' },
  { title: 'messages from them', value: 'received' },
  { title: 'messages to them', value: 'sent' },
  { title: 'items in all', value: 'items' },
  { title: 'of our people', value: 'people' },
  { title: 'bulk score (0 to 100)', value: 'bulk' },
]
const {
  mutate: ask,
  data: would,
  error,
} = useMutation({
  mutation: (id: string) =>
    answered(api.POST('/api/policies/{id}/would-make', { params: { path: { id } }, body: creation.value })),
})
</script>

<template>
  <p>
    Unmatched people
    <word-select v-model="creation.makes" aria-label="Unmatched people" :items="MAKES" /><template
      v-if="creation.makes === 'nothing'"
      >.</template
    >
    <template v-else>
      when
      <ConditionList v-model="creation.conditions" :fields="FIELDS" />
      <text-btn v-if="policy && creation.conditions.length" @click="ask(policy)"
        >Who would that be now?</text-btn
      >
      <span v-if="would" class="quiet would" role="status"
        >{{ many(would.total, 'person', 'people') }}{{ would.total ? ': ' : ''
        }}{{ would.strangers.slice(0, 12).join('; ') }}{{ would.total > 12 ? ' …' : '' }}</span
      >
      <span v-if="error" class="quiet" role="alert">{{ error.message }}</span>
    </template>
  </p>
</template>

<style scoped>
.would {
  display: block;
}
</style>
