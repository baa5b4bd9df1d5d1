<script setup lang="ts">
/** The cell of a table that picks its row, or all rows; no row gets taller by it. */
const picked = defineModel<boolean>({ required: true })
defineProps<{ label: string; some?: boolean }>()
</script>

<template>
  <td class="pick">
    <v-checkbox-btn v-model="picked" density="compact" :indeterminate="some ?? false" :aria-label="label" />
  </td>
</template>

<style scoped>
.pick {
  width: 36px;
  vertical-align: middle;
  padding-block: 0 !important;
}
.pick :deep(.v-selection-control) {
  min-height: 0;
  --v-selection-control-size: 24px;
}
</style>
