<script setup lang="ts">
/** An address that is shown once, to be copied. */
defineProps<{ address: string }>()
</script>

<template>
  <v-text-field
    class="mono my-2"
    readonly
    :model-value="address"
    label="Secret address"
    @focus="($event.target as HTMLInputElement).select()"
  />
</template>
