<script setup lang="ts">
import { useSuggestions } from './exclusionQueries'

defineEmits<{ take: [what: string, reason: string] }>()
const { data } = useSuggestions()
</script>

<template>
  <section v-if="data?.length" aria-label="Suggestions">
    <h2>From your own data</h2>
    <ul>
      <li v-for="s in data" :key="s.kind + s.what">
        <b>{{ s.what }}</b>
        <router-link v-if="s.kind === 'own-domain'" class="linkish" to="/directory"
          >To our own domains</router-link
        >
        <text-btn v-else :aria-label="`Exclude ${s.what}`" @click="$emit('take', s.what, 'one-way sender')">
          Exclude
        </text-btn>
        <div class="quiet">{{ s.why }}</div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  margin-top: 6px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
ul {
  list-style: none;
  padding: 4px 0;
}
li {
  padding: 4px 0;
  font-size: 13.5px;
}
.linkish {
  margin-left: 8px;
}
</style>
