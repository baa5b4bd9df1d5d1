<script setup lang="ts">
import { computed } from 'vue'
import { useTouches } from './queries'

/** Accounts by their last touch, and those with nothing next; each number leads to its accounts. */
const { data } = useTouches()
const NAMES: Record<string, string> = {
  day: 'in the last day',
  week: 'in the last week',
  month: 'in the last month',
  quarter: 'in the last quarter',
  longer: 'longer ago',
  never: 'never',
}
const rows = computed(() => {
  const touched = data.value?.touched ?? {}
  const most = Math.max(1, ...Object.values(touched))
  return Object.entries(NAMES).map(([touch, name]) => ({
    touch,
    name,
    n: touched[touch] ?? 0,
    share: `${((touched[touch] ?? 0) / most) * 100}%`,
  }))
})
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Accounts by last touch</h2>
      <router-link to="/timeline">Timelines</router-link>
    </div>
    <template v-if="data">
      <router-link
        v-for="r in rows"
        :key="r.touch"
        class="row"
        :to="{ path: '/timeline', query: { touch: r.touch } }"
      >
        <span>{{ r.name }}</span><i :style="{ width: r.share }" /><b>{{ r.n.toLocaleString('en-GB') }}</b>
      </router-link>
      <router-link class="row next" :to="{ path: '/timeline', query: { next: 'none' } }">
        <span>no meeting ahead</span><span /><b>{{ data.nothingNext.toLocaleString('en-GB') }}</b>
      </router-link>
    </template>
  </v-card>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  line-height: 24px;
  text-decoration: none;
}
.row:hover > span:first-child {
  text-decoration: underline;
}
.row i {
  height: 9px;
  min-width: 1px;
  border-radius: 2px;
  background: rgb(var(--v-theme-logged));
}
.next {
  border-top: 1px solid var(--line);
  margin-top: 6px;
  padding-top: 4px;
}
</style>
