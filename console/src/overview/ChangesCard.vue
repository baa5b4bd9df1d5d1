<script setup lang="ts">
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useLatestChanges } from './queries'

/** What people changed last: of everything, or of one kind of things. */
const SHOWN = 5
const props = defineProps<{ title: string; kind?: string }>()
const { data } = useLatestChanges(props.kind)
const latest = computed(() => (data.value?.entries ?? []).slice(0, SHOWN))
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>{{ title }}</h2>
      <router-link :to="{ path: '/journal', query: kind ? { kind } : {} }">Journal</router-link>
    </div>
    <p v-if="data && !latest.length" class="quiet">Nobody has changed anything lately.</p>
    <div v-for="e in latest" :key="e.number" class="change">
      <WhenAt class="quiet nowrap" :at="e.at" only="distance" />
      <span class="clip" :title="`${e.who} ${e.what} ${e.name || e.kind}`"
        ><b>{{ e.who }}</b> {{ e.what }} {{ e.name || e.kind }}</span
      >
    </div>
  </v-card>
</template>

<style scoped>
.change {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 8px;
  padding: 5px 0;
}
.change + .change {
  border-top: 1px solid var(--line);
}
</style>
