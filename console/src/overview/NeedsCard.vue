<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Need } from './needs'

/** What needs somebody, each with the button that leads there. */
const SHOWN = 5
const props = defineProps<{ needs: Need[] }>()
const all = ref(false)
const listed = computed(() => (all.value ? props.needs : props.needs.slice(0, SHOWN)))
</script>

<template>
  <v-card class="needs">
    <div v-for="n in listed" :key="n.key" class="need">
      <i :class="n.level" aria-hidden="true" />
      <b>{{ n.what }}</b>
      <span class="clip" :title="n.who">{{ n.who }}</span>
      <span class="quiet clip" :title="n.about">{{ n.about }}</span>
      <v-btn
        size="small"
        color="primary"
        :variant="n.level === 'bad' ? 'flat' : 'tonal'"
        :to="n.to"
        :aria-label="`${n.action}: ${n.what}, ${n.who}`"
        >{{ n.action }}</v-btn
      >
    </div>
    <v-btn v-if="needs.length > SHOWN" variant="text" size="small" class="ma-1" @click="all = !all">{{
      all ? 'Show fewer' : `Show ${needs.length - SHOWN} more`
    }}</v-btn>
  </v-card>
</template>

<style scoped>
.need {
  display: grid;
  grid-template-columns: 10px 150px minmax(0, 230px) minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  padding: 6px 12px;
}
.need + .need {
  border-top: 1px solid var(--line);
}
.need i {
  width: 8px;
  height: 8px;
  transform: rotate(45deg);
}
.bad {
  background: rgb(var(--v-theme-error));
}
.held {
  background: rgb(var(--v-theme-waiting));
}
.open {
  background: rgb(var(--v-theme-left-out));
}
@media (max-width: 700px) {
  .need {
    grid-template-columns: 10px minmax(0, 1fr) auto;
  }
  .need > span {
    grid-column: 2;
  }
  .need > a {
    grid-row: 1;
    grid-column: 3;
  }
}
</style>
