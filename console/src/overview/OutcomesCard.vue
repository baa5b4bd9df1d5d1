<script setup lang="ts">
import { computed } from 'vue'
import { dayMonth } from '../kernel/times'
import { wallOf } from '../kernel/wall'
import { useOutcomes } from './queries'

/** Meetings held and missed by person, week by week. */
const WEEKS = 4
const { data } = useOutcomes(WEEKS)
const weeks = computed(() => [...new Set((data.value ?? []).map((c) => c.week))].sort())
const people = computed(() => {
  const rows = new Map<
    string,
    { id: string; name: string; of: Map<string, { held: number; missed: number }> }
  >()
  for (const c of data.value ?? []) {
    const row = rows.get(c.person) ?? { id: c.person, name: c.personName, of: new Map() }
    row.of.set(c.week, c)
    rows.set(c.person, row)
  }
  return [...rows.values()]
})
function monday(week: string): string {
  return dayMonth(wallOf(week)!)
}
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Meetings held and missed</h2>
      <router-link :to="{ path: '/calendar', query: { who: 'all' } }">Calendar</router-link>
    </div>
    <p v-if="data && !people.length" class="quiet">No meeting has ended in the last {{ WEEKS }} weeks.</p>
    <v-table v-else-if="data" class="plain outcomes">
      <thead>
        <tr>
          <th>Person</th>
          <th v-for="w in weeks" :key="w" class="num">{{ monday(w) }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in people" :key="p.id">
          <td>{{ p.name }}</td>
          <td v-for="w in weeks" :key="w" class="num">
            <router-link
              v-if="p.of.get(w)"
              :to="{ path: '/calendar', query: { view: 'week', at: w, who: `person ${p.id}` } }"
              >{{ p.of.get(w)?.held }} held<span v-if="p.of.get(w)?.missed" class="missed"
                >, {{ p.of.get(w)?.missed }} missed</span
              ></router-link
            >
            <span v-else class="quiet">none</span>
          </td>
        </tr>
      </tbody>
    </v-table>
  </v-card>
</template>

<style scoped>
.outcomes {
  max-height: 260px;
  overflow: auto;
}
.outcomes :is(th, td):first-child {
  padding-left: 0;
}
.missed {
  color: rgb(var(--v-theme-error));
}
</style>
