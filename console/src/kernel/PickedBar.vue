<script setup lang="ts">
/** What can be done with the rows that are picked. */
defineProps<{ what: string }>()
defineEmits<{ none: [] }>()
</script>

<template>
  <div class="picked" role="toolbar" :aria-label="`Act on ${what}`">
    <b>{{ what }}</b>
    <slot />
    <v-btn size="small" variant="text" @click="$emit('none')">Select none</v-btn>
    <slot name="after" />
  </div>
</template>

<style scoped>
.picked {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 8px 20px;
  background: var(--picked);
}
</style>
