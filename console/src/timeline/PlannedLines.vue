<script setup lang="ts">
import { computed, ref } from 'vue'
import { many } from '../kernel/times'
import ActivityLine from './ActivityLine.vue'
import { FEW_PLANNED, usePlanned, type TimelineWanted } from './queries'

/** What lies ahead, the nearest three of it unless all is wanted. */
const MOST = 200
const props = defineProps<{ record: string; wanted: TimelineWanted; opened: string }>()
defineEmits<{ open: [id: string] }>()
const all = ref(false)
const { data } = usePlanned(
  () => props.record,
  () => props.wanted,
  () => (all.value ? MOST : FEW_PLANNED),
)
const planned = computed(() => data.value?.activities ?? [])
</script>

<template>
  <section v-if="planned.length" aria-label="Coming up">
    <h2 class="ahead">
      Coming up
      <text-btn v-if="(data?.total ?? 0) > FEW_PLANNED" :aria-expanded="all" @click="all = !all">{{
        all ? 'Show the next three' : `Show all ${many(data?.total ?? 0, 'planned', 'planned')}`
      }}</text-btn>
    </h2>
    <ActivityLine
      v-for="a in planned"
      :key="a.id"
      day
      :activity="a"
      :picked="a.id === opened"
      :tabindex="0"
      @open="$emit('open', a.id)"
    />
  </section>
</template>

<style scoped>
.ahead {
  padding: 10px 20px 4px;
  font-size: 13.5px;
  border-bottom: 1px solid var(--line);
}
.ahead .linkish {
  margin-left: 8px;
  font-size: 12.5px;
}
</style>
