<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

/** Who was invited, and what each answered. */
const props = defineProps<{ guests: readonly Schemas['GuestInfo'][] }>()
const SAID: Record<string, string> = {
  none: 'no answer yet',
  accepted: 'accepted',
  tentative: 'tentative',
  declined: 'declined',
  delegated: 'sends somebody else',
  group: 'several people',
}
const MARKS: Record<string, string> = {
  accepted: '✓',
  declined: '×',
  delegated: '→',
  tentative: '~',
  none: '·',
  group: '∷',
}
const answers = computed(() =>
  ['accepted', 'tentative', 'declined', 'none']
    .map((a) => [props.guests.filter((g) => g.answer === a).length, SAID[a]] as const)
    .filter(([n]) => n)
    .map(([n, says]) => `${n} ${says}`)
    .join(', '),
)
</script>

<template>
  <h2>
    Guests <span class="quiet">{{ answers }}</span>
  </h2>
  <ul class="guests">
    <li v-for="g in guests" :key="g.address">
      <span class="mark" :class="g.answer" aria-hidden="true">{{ MARKS[g.answer] ?? '' }}</span>
      <span class="who"
        >{{ g.name || g.address }} <span v-if="g.name" class="quiet">{{ g.address }}</span></span
      >
      <span class="quiet">{{ SAID[g.answer] ?? g.answer }}</span>
      <span v-if="g.asked" :class="g.reached ? 'quiet' : 'warn'">{{ g.asked }}</span>
    </li>
  </ul>
</template>

<style scoped>
.guests {
  list-style: none;
  padding: 0;
}
.guests li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
.mark {
  width: 1.1em;
  text-align: center;
  font-weight: 700;
  color: var(--accent);
}
.mark.declined,
.mark.delegated {
  color: rgb(var(--v-theme-error));
}
.mark.none,
.mark.group {
  color: var(--quiet);
}
.who {
  flex: 1;
  min-width: 60%;
  overflow-wrap: anywhere;
}
.warn {
  color: rgb(var(--v-theme-error));
}
</style>
