<script setup lang="ts">
import {
  mdiCalendarAccountOutline,
  mdiEmailArrowRightOutline,
  mdiEmailOutline,
  mdiFlagOutline,
  mdiLockOutline,
  mdiPhoneOutline,
  mdiPinOutline,
} from '@mdi/js'
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
/** What it is, as an icon with a name. */
const kind = computed(() => {
  const a = props.activity
  if (!isFull.value) return { icon: mdiLockOutline, name: `${a.sort || a.kind}, outline only` }
  if (a.kind === 'mail')
    return direction.value === 'to'
      ? { icon: mdiEmailArrowRightOutline, name: 'mail sent' }
      : { icon: mdiEmailOutline, name: 'mail received' }
  if (a.sort === 'call') return { icon: mdiPhoneOutline, name: 'call' }
  if (a.sort === 'follow-up') return { icon: mdiFlagOutline, name: 'follow-up' }
  return { icon: mdiCalendarAccountOutline, name: 'meeting' }
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
      <v-icon
        class="quiet"
        size="17"
        :icon="kind.icon"
        :title="kind.name"
        :aria-label="kind.name"
        role="img"
      />
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
        <v-icon v-if="activity.evidence === 'ruling'" size="14" :icon="mdiPinOutline" aria-hidden="true" />
        {{ BY[activity.evidence] ?? '' }}
      </span>
    </button>
  </div>
</template>

<style scoped>
.act {
  display: grid;
  grid-template-columns: 52px 20px minmax(0, 1fr) minmax(0, 150px) 76px;
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
    grid-template-columns: 44px 20px minmax(0, 1fr);
  }
  .whose,
  .by {
    display: none;
  }
}
</style>
