<script setup lang="ts">
import { helpIsOpen, useActiveShortcuts } from './shortcuts'

const shortcuts = useActiveShortcuts()
</script>

<template>
  <v-dialog v-model="helpIsOpen" max-width="460" aria-labelledby="keys-title" scrollable>
    <v-card class="pa-5">
      <h2 id="keys-title" class="mb-3">Keyboard shortcuts</h2>
      <v-table class="plain keys" tabindex="0" aria-label="Keyboard shortcuts">
        <tbody>
          <tr v-for="s in shortcuts" :key="s.keys">
            <td>
              <kbd>{{ s.keys.replace('Arrow', '') }}</kbd>
            </td>
            <td>{{ s.does }}</td>
          </tr>
        </tbody>
      </v-table>
      <v-btn class="mt-4" variant="tonal" autofocus @click="helpIsOpen = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>
