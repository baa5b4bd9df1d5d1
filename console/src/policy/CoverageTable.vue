<script setup lang="ts">
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { useCoverEnd } from './coverageQueries'

defineProps<{ people: Schemas['CoverageInfo'][]; mayChange: boolean }>()
const { mutate: end } = useCoverEnd()
const GOOD = ['capturing', 'connecting']
</script>

<template>
  <table class="plain">
    <thead>
      <tr>
        <th>Person</th>
        <th>Team</th>
        <th>Role</th>
        <th>Policy</th>
        <th>Because</th>
        <th>State</th>
        <th>Last item</th>
        <th class="num">Silent days</th>
        <th>Cover ends</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in people" :key="p.id">
        <td class="nowrap">
          <router-link :to="{ path: '/decisions', query: { person: p.id } }"
            ><b>{{ p.name }}</b></router-link
          >
        </td>
        <td>{{ p.team }}</td>
        <td>{{ p.role }}</td>
        <td>{{ p.policyName ?? '–' }}</td>
        <td class="quiet">{{ p.why }}</td>
        <td :class="{ bad: !GOOD.includes(p.state) }">{{ p.state.replaceAll('-', ' ') }}</td>
        <td class="nowrap quiet"><WhenAt v-if="p.lastItem" :at="p.lastItem" only="distance" /></td>
        <td class="num" :class="{ bad: (p.silentDays ?? 0) >= 7 }">{{ p.silentDays ?? '' }}</td>
        <td class="nowrap">
          <input
            v-if="mayChange"
            type="date"
            :value="p.coverUntil ?? ''"
            :aria-label="`The end of cover of ${p.name}`"
            :class="{ none: !p.coverUntil }"
            @change="end({ id: p.id, until: ($event.target as HTMLInputElement).value })"
          />
          <template v-else>{{ p.coverUntil }}</template>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
b {
  font-weight: 600;
}
.bad {
  font-weight: 600;
  color: rgb(var(--v-theme-error));
}
input {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
}
input.none:not(:focus) {
  color: var(--quiet);
  opacity: 0.55;
}
</style>
