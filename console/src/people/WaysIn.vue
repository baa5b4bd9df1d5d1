<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import RefusedLine from '../kernel/RefusedLine.vue'
import { PROBLEMS, useWaysIn } from './providerQueries'

/** The company's providers, and why one of them did not let somebody in. */
const { data } = useWaysIn()
const route = useRoute()
const refused = computed(() => {
  const problem = typeof route.query.problem === 'string' ? PROBLEMS[route.query.problem] : undefined
  // never somebody else's words: a link may hold anything
  const from = data.value?.providers.find((p) => p.name === route.query.from)?.name
  return problem ? { message: from ? `${problem.says} (${from})` : problem.says, todo: problem.todo } : null
})
function start(id: string) {
  const to = typeof route.query.to === 'string' ? `?to=${encodeURIComponent(route.query.to)}` : ''
  return `/api/session/providers/${id}/start${to}`
}
</script>

<template>
  <RefusedLine :refused="refused" />
  <div v-if="data?.providers.length" class="ways">
    <v-btn v-for="p in data.providers" :key="p.id" :href="start(p.id)" color="primary" block
      >Sign in with {{ p.name }}</v-btn
    >
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  gap: 8px;
}
</style>
