<script setup lang="ts">
import { mdiKeyboardOutline, mdiMagnify, mdiMenu } from '@mdi/js'
import { helpIsOpen, paletteIsOpen } from './shortcuts'

/** Search and jump, and what belongs to no page. */
defineEmits<{ menu: [] }>()
</script>

<template>
  <div class="top">
    <v-btn
      :icon="mdiMenu"
      size="small"
      variant="text"
      title="Show or hide the pages ([)"
      aria-label="Show or hide the pages"
      @click="$emit('menu')"
    />
    <v-btn class="jump" variant="outlined" :prepend-icon="mdiMagnify" @click="paletteIsOpen = true">
      <span class="words">Find a page, record or action</span><kbd>Ctrl</kbd>&nbsp;<kbd>K</kbd>
    </v-btn>
    <v-btn
      :icon="mdiKeyboardOutline"
      size="small"
      variant="text"
      title="Keyboard shortcuts (?)"
      aria-label="Keyboard shortcuts"
      class="keys"
      @click="helpIsOpen = true"
    />
    <slot />
  </div>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 8px 20px 0 12px;
}

.jump {
  border-color: var(--line);
  background: var(--surface);
  width: 340px;
  max-width: 60vw;
  justify-content: start;
  font-weight: 400;
}
.jump :deep(.v-btn__content) {
  flex: 1;
}
.words {
  flex: 1;
  text-align: left;
  color: var(--quiet);
}
.keys {
  margin-left: auto;
}
</style>
