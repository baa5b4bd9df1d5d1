<script setup lang="ts">
import { computed } from 'vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useVersions } from './queries'

/** What others have made of a policy since the version that is being edited. */
const props = defineProps<{ id: string; since: number }>()
defineEmits<{ discard: []; keep: [] }>()
const { data } = useVersions(() => props.id)
const newer = computed(() => data.value?.filter((v) => v.version > props.since) ?? [])
</script>

<template>
  <div v-if="newer.length" class="overtaken" role="status">
    <p><b>Changed meanwhile.</b> What you change here began as version {{ since }}.</p>
    <div v-for="v in newer" :key="v.version">
      <p>Version {{ v.version }}, {{ v.changedBy }}, <WhenAt :at="v.changedAt" only="distance" />:</p>
      <ul>
        <li v-for="d in v.differences" :key="d">{{ d }}</li>
      </ul>
    </div>
    <div class="d-flex ga-2 mt-2">
      <v-btn size="small" variant="tonal" @click="$emit('keep')">Put my changes on top</v-btn>
      <v-btn size="small" variant="text" @click="$emit('discard')">Discard my changes</v-btn>
    </div>
  </div>
</template>

<style scoped>
.overtaken {
  border-left: 3px solid var(--accent);
  padding-left: 10px;
  margin-bottom: 12px;
}
ul {
  padding-left: 18px;
}
</style>
