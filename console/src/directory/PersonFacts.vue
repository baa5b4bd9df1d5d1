<script setup lang="ts">
import StateNote from '../kernel/StateNote.vue'
import { useMe } from '../kernel/useMe'
import FactsForm from './FactsForm.vue'
import { useColumns, useRow } from './queries'

/** One of our people, edited in place. */
const props = defineProps<{ id: string }>()
defineEmits<{ close: [] }>()
const { data: row, error } = useRow('people', () => props.id)
const columns = useColumns('people')
const { isAdministrator } = useMe()
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="620"
    aria-labelledby="person-title"
    @update:model-value="$emit('close')"
  >
    <v-card class="pa-5">
      <h2 id="person-title" class="mb-4">{{ row?.values.name ?? 'Person' }}</h2>
      <StateNote v-if="error && !row" :error="error" />
      <StateNote v-else-if="!row || !columns" loading />
      <FactsForm v-else kind="people" :row="row" :columns="columns" :may-change="isAdministrator">
        <v-btn variant="text" @click="$emit('close')">Close</v-btn>
      </FactsForm>
    </v-card>
  </v-dialog>
</template>
