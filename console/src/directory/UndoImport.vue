<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useUndoImport, type TakenImport, type UndoneImport } from './imports'

/** Takes back what one file brought, after saying what that is, and says what became of it. */
const props = defineProps<{ file: TakenImport }>()
defineEmits<{ close: [] }>()
const open = ref(true)
const undone = ref<UndoneImport | null>(null)
const { mutateAsync, error, isLoading } = useUndoImport()

async function undo() {
  undone.value = await mutateAsync(props.file.id).catch(() => null)
}
</script>

<template>
  <v-dialog v-model="open" max-width="520" aria-labelledby="undo-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <template v-if="!undone">
        <h2 id="undo-title">Undo {{ file.name || 'this file' }}?</h2>
        <p class="my-3">
          What came with it is removed ({{ file.added.toLocaleString('en-GB') }}), and what it changed is as
          before ({{ file.changed.toLocaleString('en-GB') }}). What somebody changed since, or tied something
          to, stays as it is. Mail and meetings that this concerns are decided again.
        </p>
        <StateNote v-if="error" :error="error" />
        <div class="d-flex ga-3">
          <v-btn variant="flat" color="primary" :loading="isLoading" @click="undo">Undo the file</v-btn>
          <v-btn variant="text" autofocus @click="open = false">Cancel</v-btn>
        </div>
      </template>
      <template v-else>
        <h2 id="undo-title">{{ file.name || 'The file' }} is undone</h2>
        <p class="my-3" role="status">
          {{ undone.removed.toLocaleString('en-GB') }} removed,
          {{ undone.restored.toLocaleString('en-GB') }} as before{{
            undone.archived
              ? `, ${undone.archived.toLocaleString('en-GB')} archived, as they stand in address books`
              : ''
          }}. {{ many(undone.reconsidering, 'decision') }} being made again.
        </p>
        <template v-if="undone.left">
          <p>{{ undone.left.toLocaleString('en-GB') }} left as they are:</p>
          <ul class="left">
            <li v-for="l in undone.some" :key="l.record">
              <b>{{ l.name || 'One that is gone' }}</b> <span class="quiet">{{ l.why }}</span>
            </li>
            <li v-if="undone.left > undone.some.length" class="quiet">
              and {{ (undone.left - undone.some.length).toLocaleString('en-GB') }} more
            </li>
          </ul>
        </template>
        <div class="mt-3">
          <v-btn variant="flat" color="primary" autofocus @click="open = false">Close</v-btn>
        </div>
      </template>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.left {
  list-style: none;
  padding: 0;
  max-height: 240px;
  overflow-y: auto;
}
</style>
