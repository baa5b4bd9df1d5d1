<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'

const props = defineProps<{ activity: Schemas['ActivityInfo']; picked: boolean; tabindex: number }>()
defineEmits<{ open: [] }>()
/** What ties an activity to its record less surely than an address on it does. */
const BY: Record<string, string> = {
  domain: 'by domain',
  ruling: 'pinned',
  part: 'by a part',
  other_address: 'by variant',
}
const isFull = computed(() => props.activity.visibility === 'full')
const outsiders = computed(() => {
  const names = props.activity.people
    .filter((p) => p.part !== 'room' && !props.activity.owners.some((o) => o.name === p.name))
    .map((p) => p.name || p.address)
  return [...new Set(names)].join(', ')
})
const direction = computed(() => {
  if (props.activity.kind !== 'mail') return ''
  const from = props.activity.people.find((p) => p.part === 'from')
  if (!from) return ''
  return props.activity.owners.some((o) => o.name === from.name) ? 'to' : 'from'
})
</script>

<template>
  <div role="listitem">
    <button
      data-row
      :class="['act', { picked }]"
      :tabindex="tabindex"
      :aria-current="picked"
      @click="$emit('open')"
    >
      <span class="at"
        ><WhenAt :at="activity.at" :all-day="activity.allDay" :zone="activity.zone" only="clock"
      /></span>
      <span class="kind quiet">{{ activity.sort || activity.kind }}</span>
      <span class="clip">
        <template v-if="isFull">
          <span v-if="activity.mark" class="mark">{{ activity.mark }}</span>
          <b>{{ activity.subject || '(no subject)' }}</b>
          <span class="quiet"> {{ direction }} {{ outsiders }}</span>
        </template>
        <span v-else class="quiet">Outline only: what and with whom is for those who read it in full</span>
      </span>
      <span class="quiet clip whose">{{ activity.owners.map((o) => o.name).join(', ') }}</span>
      <span class="quiet by" :title="`on this timeline by ${activity.evidence.replaceAll('_', ' ')}`">
        {{ BY[activity.evidence] ?? '' }}
      </span>
    </button>
  </div>
</template>

<style scoped>
.act {
  display: grid;
  grid-template-columns: 52px 58px minmax(0, 1fr) minmax(0, 150px) 66px;
  gap: 8px;
  width: 100%;
  padding: 4px 16px 4px 20px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.act:hover {
  background: color-mix(in srgb, var(--picked) 60%, transparent);
}
.act.picked {
  background: var(--picked);
  box-shadow: inset 3px 0 0 var(--accent);
}
.kind,
.whose,
.by {
  font-size: 12.5px;
}
.mark {
  margin-right: 6px;
  padding: 0 5px;
  border: 1px solid var(--line);
  border-radius: 3px;
  color: rgb(var(--v-theme-error));
  font-size: 12px;
}
b {
  font-weight: 600;
}
@container (max-width: 640px) {
  .act {
    grid-template-columns: 44px 54px minmax(0, 1fr);
  }
  .whose,
  .by {
    display: none;
  }
}
</style>
