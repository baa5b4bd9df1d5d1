<script setup lang="ts">
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { broughtBy } from './instep'

/** Each calendar that is looked at, and how it stands with what is here. */
defineProps<{ calendars: Schemas['CalendarStand'][] }>()
defineEmits<{ held: [source: { id: number; label: string; held: string }]; conflicts: [] }>()
</script>

<template>
  <v-table class="plain">
    <thead>
      <tr>
        <th>Person</th>
        <th>Calendar</th>
        <th>State</th>
        <th>Last run</th>
        <th>Next</th>
        <th>Last run brought</th>
        <th class="num" title="Stand alike here and there">Alike</th>
        <th class="num" title="Waiting to be written to the calendar">Pending</th>
        <th class="num" title="Changed on both sides at once, in the last ninety days">Conflicts</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in calendars" :key="c.source">
        <td>{{ c.personName }}</td>
        <td>
          {{ c.label }}
          <span v-if="c.outgoing && c.goesOut" class="quiet">meetings created here go there</span>
          <span v-else-if="!c.goesOut" class="quiet">in only</span>
        </td>
        <td>
          <text-btn
            v-if="c.held && c.mayChange"
            class="warn"
            @click="$emit('held', { id: c.source, label: c.label, held: 'Much vanished' })"
          >
            held back: review
          </text-btn>
          <span v-else :class="{ warn: c.held || c.state !== 'capturing' }">{{
            c.held ? 'held back' : c.state
          }}</span>
        </td>
        <td class="nowrap">
          <WhenAt v-if="c.lastRun" :at="c.lastRun" only="distance" /><template v-else>never</template>
        </td>
        <td class="nowrap"><WhenAt v-if="c.nextRun" :at="c.nextRun" only="clock" /></td>
        <td class="quiet">{{ broughtBy(c.brought) }}</td>
        <td class="num">{{ c.alike }}</td>
        <td class="num" :class="{ warn: c.stuck }">
          {{ c.pendingSync }}<template v-if="c.stuck">, {{ c.stuck }} stuck</template>
        </td>
        <td class="num">
          <text-btn v-if="c.conflicts" @click="$emit('conflicts')">
            {{ c.conflicts }}
          </text-btn>
          <template v-else>0</template>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.warn {
  color: rgb(var(--v-theme-error));
}
</style>
