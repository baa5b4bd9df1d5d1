<script setup lang="ts">
import { useRoute } from 'vue-router'

/** What is shown at an address that is none of the console's. */
const route = useRoute()
</script>

<template>
  <div class="page">
    <header>
      <h1>There is no such page</h1>
      <span class="quiet address">{{ route.path }}</span>
    </header>
    <section class="pane note">
      <p>The address may be misspelt, or was cut off on its way here.</p>
      <p>
        <RouterLink to="/overview">Go to the overview</RouterLink>, or press <kbd>Ctrl</kbd> <kbd>K</kbd> to
        find a page or a record.
      </p>
    </section>
  </div>
</template>

<style scoped>
.address {
  overflow-wrap: anywhere;
}
.note {
  padding: 16px 20px;
}
</style>
