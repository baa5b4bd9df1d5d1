<script setup lang="ts">
import { computed } from 'vue'
import { many } from '../kernel/times'
import { useStrangers } from '../triage/queries'

/** The best of those who match no record. */
const SHOWN = 5
const { data } = useStrangers('')
const best = computed(() =>
  (data.value?.domains ?? [])
    .flatMap((d) => d.strangers.map((s) => ({ ...s, domain: d.domain })))
    .slice(0, SHOWN),
)
function why(s: (typeof best.value)[number]): string {
  return s.likely[0]?.why ?? `${s.in} received, ${s.out} sent, ${many(s.people, 'person', 'people')} of ours`
}
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Unmatched people</h2>
      <router-link v-if="data" to="/triage"
        >{{ many(data.total, 'person', 'people') }}, {{ data.waiting.toLocaleString('en-GB') }} with items on
        no timeline</router-link
      >
    </div>
    <p v-if="data && !best.length" class="quiet">Everybody on captured mail and meetings matches a record.</p>
    <router-link
      v-for="s in best"
      :key="s.address"
      class="who"
      :to="{ path: '/triage', query: { find: s.address } }"
    >
      <b class="clip">{{ s.name || s.address }}</b>
      <span class="clip">{{ s.domain }}</span>
      <span class="quiet clip" :title="why(s)">{{ why(s) }}</span>
      <span class="quiet nowrap">{{ many(s.items, 'item') }}</span>
    </router-link>
  </v-card>
</template>

<style scoped>
.who {
  display: grid;
  grid-template-columns: minmax(0, 150px) minmax(0, 180px) minmax(0, 1fr) auto;
  gap: 12px;
  padding: 6px 0;
  text-decoration: none;
}
.who + .who {
  border-top: 1px solid var(--line);
}
.who:hover b {
  text-decoration: underline;
}
</style>
