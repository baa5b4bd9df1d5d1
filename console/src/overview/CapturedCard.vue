<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { dateText, many } from '../kernel/times'
import { today } from '../timeline/decisionQueries'
import { VERDICTS, WORDS, compared, halves, sum } from './figures'
import { SPAN, useDays, useLateness } from './queries'

/** What was captured lately, day by day, with its numbers as a table at hand. */
const CapturedPlot = defineAsyncComponent(async () => {
  // running the plot's scripts takes longer than all else here: what stands there already is painted first
  await new Promise((painted) => requestAnimationFrame(() => setTimeout(painted)))
  return import('./CapturedPlot.vue')
})
const router = useRouter()
const { data, error, asyncStatus, refetch } = useDays()
const { data: late } = useLateness()
const asTable = ref(false)
const parts = computed(() => halves(data.value ?? []))
const logged = computed(() => sum(parts.value.last, 'logged'))
const unreadable = computed(() => sum(parts.value.last, 'unreadable'))
const waiting = computed(() => sum(parts.value.last, 'waiting'))
function rows(verdict: string, from = parts.value.last[0]?.day ?? '', until = today()) {
  return { path: '/decisions', query: { verdict, from, until } }
}
function lasting(seconds: number): string {
  if (seconds < 120) return `${seconds} s`
  if (seconds < 7_200) return `${Math.round(seconds / 60)} min`
  return seconds < 172_800 ? `${Math.round(seconds / 3_600)} h` : `${Math.round(seconds / 86_400)} days`
}
const n = (value: number) => value.toLocaleString('en-GB')
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Captured in the last {{ SPAN }} days</h2>
      <span class="legend quiet">
        <span v-for="v in VERDICTS" :key="v"><i :class="v" />{{ WORDS[v] }}</span>
        <v-btn
          size="x-small"
          variant="text"
          :aria-pressed="asTable"
          title="The same numbers as a table"
          @click="asTable = !asTable"
          >{{ asTable ? 'Plot' : 'Table' }}</v-btn
        >
      </span>
    </div>
    <StateNote v-if="error && !data" :error="error" @again="refetch()" />
    <v-skeleton-loader v-else-if="!data" type="image" height="172" :aria-busy="asyncStatus === 'loading'" />
    <div v-else-if="asTable" class="numbers">
      <v-table class="plain">
        <thead>
          <tr>
            <th>Day</th>
            <th v-for="v in VERDICTS" :key="v" class="num">{{ WORDS[v] }}</th>
            <th class="num">unreadable</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in [...parts.last].reverse()" :key="d.day">
            <td>{{ dateText(d.day) }}</td>
            <td v-for="v in VERDICTS" :key="v" class="num">{{ n(d[v]) }}</td>
            <td class="num">{{ n(d.unreadable) }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <div v-else class="room">
      <CapturedPlot :days="parts.last" @pick="(day, verdict) => void router.push(rows(verdict, day, day))" />
    </div>
    <div v-if="data" class="facts">
      <p>
        <router-link :to="rows('logged')" class="figure">{{ n(logged) }}</router-link>
        <span class="quiet">logged, {{ compared(logged, sum(parts.before, 'logged'), `${SPAN} days`) }}</span>
      </p>
      <p>
        <router-link :to="rows('waiting')" class="figure">{{ n(waiting) }}</router-link>
        <span class="quiet">waiting: nobody on them matches a record</span>
      </p>
      <p>
        <router-link :to="rows('unreadable')" class="figure">{{ n(unreadable) }}</router-link>
        <span class="quiet">could not be read</span>
      </p>
      <p v-if="late?.messages">
        <b class="figure">{{ lasting(late.median) }}</b>
        <span class="quiet"
          >or less from arrival to timeline for half of {{ many(late.messages, 'new message') }},
          {{ lasting(late.most) }} for 95 of 100</span
        >
      </p>
    </div>
  </v-card>
</template>

<style scoped>
.legend {
  display: flex;
  gap: 12px;
  align-items: center;
  font-size: 12px;
}
.legend i {
  display: inline-block;
  width: 9px;
  height: 9px;
  border-radius: 2px;
  margin-right: 5px;
}
.logged {
  background: rgb(var(--v-theme-logged));
}
.waiting {
  background: rgb(var(--v-theme-waiting));
}
.leftOut {
  background: rgb(var(--v-theme-left-out));
}
.room {
  height: 172px;
}
.numbers {
  height: 172px;
  overflow: auto;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 16px;
  margin-top: 6px;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
.facts p {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.facts .quiet {
  font-size: 12px;
  line-height: 16px;
}
</style>
