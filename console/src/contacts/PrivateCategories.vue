<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import RefusedLine from '../kernel/RefusedLine.vue'
import { tell } from '../kernel/snackbar'
import { useDoing } from '../kernel/useDoing'
import { words } from '../policy/rules'
import { useKeepPrivate, usePrivateCategories } from './queries'

/** Categories whose cards are nobody else's business: nothing of them is taken in or kept. */
const props = defineProps<{ connection: string }>()
const { data } = usePrivateCategories(() => props.connection)
const { mutateAsync: keep } = useKeepPrivate()
const { busy, refused, doing } = useDoing()
const kept = computed(() => (data.value?.categories ?? []).join(', '))
const text = ref('')
watch(
  kept,
  (now, before) => {
    // what somebody is typing stays
    if (text.value === (before ?? '')) text.value = now
  },
  { immediate: true },
)
const save = () =>
  doing(async () => {
    const before = data.value?.categories ?? []
    await keep({ id: props.connection, categories: words(text.value) })
    tell('Private categories are changed', () => keep({ id: props.connection, categories: [...before] }))
  })
</script>

<template>
  <form @submit.prevent="save">
    <h3>Private categories</h3>
    <div class="line">
      <v-text-field
        v-model="text"
        label="Cards in these stay private"
        placeholder="family, friends"
        maxlength="500"
        hint="A list of cards with such a name counts, too. Cards that are marked as private stay private anyway."
        persistent-hint
      />
      <v-btn type="submit" variant="tonal" :loading="busy" :disabled="text === kept">Save</v-btn>
    </div>
    <RefusedLine v-if="refused" :refused="refused" />
  </form>
</template>

<style scoped>
.line {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  margin-top: 6px;
}
</style>
