<script setup lang="ts">
/** What stands in the middle of an empty window, before anybody is signed in. */
defineProps<{ says: string }>()
</script>

<template>
  <div class="entry">
    <div class="card">
      <h1>{{ says }}</h1>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.entry {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 16px;
}
.card {
  width: min(340px, 100%);
  display: grid;
  gap: 14px;
}
</style>
