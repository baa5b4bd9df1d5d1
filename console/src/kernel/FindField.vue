<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import { onBeforeUnmount, ref } from 'vue'
import { useShortcuts } from './shortcuts'

/** Narrows a list by what is typed; a key leads here. */
const props = defineProps<{ label?: string; placeholder: string; keys?: string; does: string }>()
const words = defineModel<string | null>({ required: true })
const field = ref<{ focus: () => void } | null>(null)
useShortcuts([{ keys: props.keys ?? '/', does: props.does, run: () => field.value?.focus() }])
onBeforeUnmount(() => (field.value = null))
</script>

<template>
  <v-text-field
    ref="field"
    :model-value="words"
    :label="label ?? 'Find'"
    :placeholder="placeholder"
    :prepend-inner-icon="mdiMagnify"
    type="search"
    class="find"
    clearable
    persistent-placeholder
    @update:model-value="words = $event ?? ''"
  />
</template>

<style scoped>
.find {
  flex: 0 1 250px;
}
</style>
