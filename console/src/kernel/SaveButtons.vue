<script setup lang="ts">
/** What ends a dialog in which something is edited. */
defineProps<{ saving: boolean }>()
defineEmits<{ cancel: [] }>()
</script>

<template>
  <p class="d-flex justify-end ga-2">
    <v-btn variant="text" size="small" @click="$emit('cancel')">Cancel</v-btn>
    <v-btn type="submit" color="primary" size="small" :loading="saving">Save</v-btn>
  </p>
</template>
