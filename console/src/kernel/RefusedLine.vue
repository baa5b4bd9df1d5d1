<script setup lang="ts">
/** Within a form: what was refused, and what to do. */
defineProps<{ refused: { message: string; todo: string } | null }>()
</script>

<template>
  <p v-if="refused" role="alert" class="refused">
    <strong>{{ refused.message }}.</strong> {{ refused.todo }}
  </p>
</template>

<style scoped>
.refused {
  margin: 0;
  color: rgb(var(--v-theme-error));
}
</style>
