<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { useVersions } from './queries'

const props = defineProps<{ id: string; mayChange: boolean }>()
defineEmits<{ back: [version: number] }>()
const { data } = useVersions(() => props.id)
</script>

<template>
  <details v-if="data">
    <summary>
      Versions <span class="quiet">{{ data.length }}</span>
    </summary>
    <ol>
      <li v-for="(v, i) in data" :key="v.version">
        <b>{{ v.version }}</b> {{ v.changedBy }}, <WhenAt :at="v.changedAt" only="distance" />
        <text-btn v-if="mayChange && i > 0" class="ml-2" @click="$emit('back', v.version)">
          Back to this
        </text-btn>
        <div v-for="d in v.differences" :key="d" class="quiet">{{ d }}</div>
      </li>
    </ol>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 600;
  margin-top: 14px;
}
ol {
  list-style: none;
  padding: 6px 0;
}
li {
  padding: 4px 0;
  font-size: 13.5px;
}
</style>
