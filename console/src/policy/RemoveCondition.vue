<script setup lang="ts">
import { mdiClose } from '@mdi/js'

defineEmits<{ remove: [] }>()
</script>

<template>
  <v-btn
    :icon="mdiClose"
    size="x-small"
    variant="text"
    title="Remove this condition"
    aria-label="Remove this condition"
    @click="$emit('remove')"
  />
</template>
