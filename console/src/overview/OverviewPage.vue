<script setup lang="ts">
import { computed } from 'vue'
import { useConnections } from '../connections/queries'
import { fullDay, many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { useToday } from '../kernel/useToday'
import { useConflicts, useInStep } from '../meetings/instep'
import { useCoverage } from '../policy/coverageQueries'
import CapturedCard from './CapturedCard.vue'
import ChainCard from './ChainCard.vue'
import ChangesCard from './ChangesCard.vue'
import CoverageCard from './CoverageCard.vue'
import MeetingsCard from './MeetingsCard.vue'
import NeedsCard from './NeedsCard.vue'
import OutcomesCard from './OutcomesCard.vue'
import PoliciesCard from './PoliciesCard.vue'
import OwnCard from './OwnCard.vue'
import SetUpCard from './SetUpCard.vue'
import TouchCard from './TouchCard.vue'
import UnmatchedCard from './UnmatchedCard.vue'
import { needsOf } from './needs'
import { isSetUp, setUpSteps } from './setUp'
import { useBackground, useBest, useDays, useLateness, useSetUp } from './queries'

/** How the morning stands: what needs somebody, what was captured, and how everybody is covered. */
const { me, seesAll, isAdministrator } = useMe()
const connected = useConnections()
const synced = useInStep()
const covered = useCoverage()
const conflicting = useConflicts()
const { data: connections } = connected
const { data: inStep } = synced
const { data: coverage } = covered
const { data: conflicts } = conflicting
/** Nothing is drawn before what stands above it is known: a page that is read does not move. */
const first = [connected, synced, covered, conflicting, useDays(), useLateness(), useBest()]
const ready = computed(() => me.value !== undefined && first.every((q) => q.status.value !== 'pending'))
const { data: background } = useBackground(seesAll)
const needs = computed(() =>
  needsOf(
    connections.value ?? [],
    inStep.value?.calendars ?? [],
    isAdministrator.value ? (coverage.value ?? []) : [],
  ),
)
const known = computed(() => connections.value !== undefined && coverage.value !== undefined)
const capturing = computed(() => coverage.value?.filter((p) => p.state === 'capturing').length ?? 0)
const captured = computed(() => coverage.value?.some((p) => p.lastItem) ?? true)
// once something is captured all is set up, and nothing more is asked for
const { data: has } = useSetUp(computed(() => isAdministrator.value && !captured.value))
const steps = computed(() =>
  has.value && coverage.value
    ? setUpSteps({
        ...has.value,
        people: coverage.value.length,
        connections: connections.value?.length ?? 0,
        captured: captured.value,
      })
    : null,
)
const empty = computed(() => known.value && coverage.value?.length === 0)
const role = computed(() => me.value?.role ?? '')
const today = useToday()
</script>

<template>
  <div class="page overview">
    <header>
      <h1>{{ fullDay(today) }}</h1>
      <span v-if="ready && !empty && seesAll" class="quiet"
        >{{ capturing }} of {{ many(coverage?.length ?? 0, 'person', 'people') }} captured</span
      >
      <b v-if="ready && needs.length">{{ many(needs.length, 'thing needs', 'things need') }} you</b>
      <span v-else-if="ready && !empty" class="quiet">Nothing needs you.</span>
    </header>
    <div class="body">
      <SetUpCard v-if="ready && steps && !isSetUp(steps)" :steps="steps" class="mb-3" />
      <v-card v-if="ready && empty && !isAdministrator" class="card">
        <h2>Nothing is captured yet</h2>
        <p class="quiet my-2">An administrator is setting Jandrel up; your timelines come with it.</p>
      </v-card>
      <div v-if="!ready" class="grid" aria-busy="true">
        <v-skeleton-loader v-for="i in 4" :key="i" type="article" height="240" />
      </div>
      <NeedsCard v-if="ready && needs.length" :needs="needs" />
      <div v-if="ready && !empty" class="grid">
        <template v-if="role === 'rep'">
          <MeetingsCard v-if="me?.person" />
          <OwnCard v-if="me?.person" />
        </template>
        <template v-if="role === 'manager'">
          <OutcomesCard />
          <TouchCard />
        </template>
        <CapturedCard />
        <CoverageCard
          v-if="seesAll && coverage"
          :people="coverage"
          :calendars="inStep?.calendars ?? []"
          :conflicts="conflicts?.length ?? 0"
          :left="(background?.left ?? 0) + (background?.toFetch ?? 0)"
        />
        <template v-if="role === 'auditor'">
          <PoliciesCard />
          <ChangesCard title="Changes of policies" kind="policy" />
          <ChangesCard title="Changes of exclusions" kind="exclusion" />
          <ChainCard />
        </template>
        <UnmatchedCard v-if="role !== 'auditor'" />
        <ChangesCard v-if="role === 'administrator'" title="Last changes" />
      </div>
    </div>
  </div>
</template>

<style>
.overview .body {
  overflow: auto;
  padding: 0 20px 20px;
}
.overview .grid {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(280px, 1fr);
  gap: 12px;
  margin-top: 12px;
}
.overview .card {
  padding: 12px 16px;
}
.overview .head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 4px 12px;
  flex-wrap: wrap;
  margin-bottom: 6px;
}
.overview .head a {
  font-size: 12px;
}
.overview .figure {
  font-size: 28px;
  line-height: 32px;
  font-weight: 600;
  letter-spacing: -0.01em;
  text-decoration: none;
  white-space: nowrap;
}
.overview .figure:hover {
  text-decoration: underline;
}
/* a card that would stand alone in its row takes all of it */
.overview .grid > :last-child:nth-child(odd) {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .overview .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
