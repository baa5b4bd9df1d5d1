<script setup lang="ts">
/** One of several views of a page, with how much each holds. */
defineProps<{
  views: readonly { value: string; title: string; n?: number; keys?: string }[]
  label: string
}>()
const chosen = defineModel<string>({ required: true })
</script>

<template>
  <v-btn-toggle v-model="chosen" mandatory :aria-label="label" class="views">
    <v-btn
      v-for="v in views"
      :key="v.value"
      :value="v.value"
      size="small"
      :title="v.keys ? `${v.title} (${v.keys})` : undefined"
    >
      <slot :view="v">{{ v.title }}</slot>{{ ' '
      }}<span v-if="'n' in v" class="n">{{ v.n?.toLocaleString('en-GB') ?? '…' }}</span>
    </v-btn>
  </v-btn-toggle>
</template>

<style scoped>
.n {
  margin-left: 6px;
  min-width: 2ch;
  color: var(--quiet);
}
.views {
  height: auto;
  max-width: 100%;
  flex-wrap: wrap;
}
</style>
