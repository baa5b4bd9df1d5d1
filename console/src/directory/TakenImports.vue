<script setup lang="ts">
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import UndoImport from './UndoImport.vue'
import { useTakenImports, type TakenImport } from './imports'

/** The files of the last thirty days, each with its way back. */
const { data, error, isPending, refetch } = useTakenImports()
const undoing = ref<TakenImport | null>(null)
const files = computed(() => data.value ?? [])
</script>

<template>
  <StateNote v-if="error" :error="error" @again="refetch()" />
  <StateNote v-else-if="isPending" loading />
  <section v-else-if="files.length" aria-labelledby="taken-title">
    <h2 id="taken-title">Taken in the last thirty days</h2>
    <v-table class="plain">
      <thead>
        <tr>
          <th>Taken</th>
          <th>File</th>
          <th>Holds</th>
          <th class="number">Added</th>
          <th class="number">Changed</th>
          <th class="undo">Undo</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in files" :key="f.id">
          <td class="nowrap">
            <WhenAt :at="f.at" /> <span class="quiet">by {{ f.by }}</span>
          </td>
          <td>{{ f.name || 'A file' }}</td>
          <td>{{ f.kind }}</td>
          <td class="number">{{ f.added.toLocaleString('en-GB') }}</td>
          <td class="number">{{ f.changed.toLocaleString('en-GB') }}</td>
          <td class="undo">
            <span v-if="f.undoneAt" class="quiet"
              >undone <WhenAt :at="f.undoneAt" /> by {{ f.undoneBy }}</span
            >
            <v-btn
              v-else-if="f.added + f.changed"
              size="small"
              variant="text"
              :aria-label="`Undo ${f.name}`"
              @click="undoing = f"
              >Undo…</v-btn
            >
          </td>
        </tr>
      </tbody>
    </v-table>
    <UndoImport v-if="undoing" :file="undoing" @close="undoing = null" />
  </section>
</template>

<style scoped>
h2 {
  font-size: 14px;
  margin-bottom: 4px;
}
table .number {
  text-align: right;
  width: 90px;
}
table .undo {
  text-align: right;
  white-space: nowrap;
  width: 1%;
}
</style>
