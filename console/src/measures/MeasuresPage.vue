<script setup lang="ts">
import { computed, defineAsyncComponent, reactive, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { usePeople } from '../people/queries'
import DateField from '../kernel/DateField.vue'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import FigureRows from './FigureRows.vue'
import FigureTable from './FigureTable.vue'
import StageForm from './StageForm.vue'
import { heightOf, titleOf } from './figures'
import { useStages } from '../directory/queries'
import { asked, useFigures, useMeasures, type Figure } from './queries'

/** What it takes to win: one question at a time, with its figure, a plot and what stands behind. */
const MeasurePlot = defineAsyncComponent(() => import('./MeasurePlot.vue'))
const NAMES = ['first-meetings', 'after-two-meetings', 'to-win', 'stages', 'last-touch', 'contact']
const route = useRoute()
const router = useRouter()
const { data: me } = useMe()
const { data: measures } = useMeasures()
const { data: people } = usePeople()
const { data: stages } = useStages()
const at = reactive({
  measure: NAMES[0]!,
  by: '',
  from: '',
  until: '',
  team: '',
  channel: '',
  column: '',
  line: '*',
})
useInAddress(at)
const info = computed(() => measures.value?.find((m) => m.name === at.measure))
const narrowed = computed(() => ({
  by: info.value?.by.includes(at.by) ? at.by : '',
  from: at.from,
  until: at.until,
  team: at.team,
  channel: info.value?.by.includes('channel') || at.measure === 'stages' ? at.channel : '',
}))
const { data: sheet, error, asyncStatus, refetch } = useFigures(() => at.measure, narrowed)
const figure = computed<Figure | null>(() =>
  sheet.value?.columns.some((c) => c.name === at.column)
    ? { column: at.column, ...(route.query.line !== undefined && { line: at.line }) }
    : null,
)
const label = computed(() => sheet.value?.lines.find((l) => l.key === figure.value?.line)?.label ?? 'all')
const teams = computed(() => [
  { value: '', title: 'All teams' },
  ...[...new Set((people.value ?? []).map((p) => p.team).filter(Boolean))]
    .sort()
    .map((t) => ({ value: t, title: t })),
])
const channels = computed(() => [
  { value: '', title: 'All channels' },
  ...(stages.value?.channels ?? []).map((c) => ({ value: c, title: c })),
  { value: '-', title: 'No channel' },
])
const tabs = NAMES.map((n, i) => ({ value: n, title: titleOf(n), keys: String(i + 1) }))
const csv = computed(
  () => `/api/measures/${at.measure}/figures.csv?${new URLSearchParams(asked(narrowed.value))}`,
)
const plot = ref<{ saveAs: (kind: 'svg' | 'png') => void } | null>(null)
const editing = ref(false)
function show(measure: string) {
  void router.replace({
    query: { ...route.query, measure, by: undefined, column: undefined, line: undefined },
  })
}
function open(figure: Figure | null) {
  void router.replace({ query: { ...route.query, column: figure?.column, line: figure?.line } })
}
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => open(null) },
  ...NAMES.map((n, i) => ({ keys: String(i + 1), does: `Show ${titleOf(n)}`, run: () => show(n) })),
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Measures</h1>
      <span class="quiet">{{ info?.asks }}</span>
      <v-btn
        v-if="me?.role === 'administrator'"
        class="ml-auto"
        size="small"
        variant="text"
        @click="editing = true"
        >Stages, channels, results</v-btn
      >
    </header>
    <div class="bar">
      <ViewTabs :model-value="at.measure" :views="tabs" label="Which measure" @update:model-value="show" />
    </div>
    <div class="bar">
      <v-select
        v-if="(info?.by.length ?? 0) > 1"
        class="narrow"
        :model-value="narrowed.by || info?.by[0]"
        :items="info?.by.map((b) => ({ value: b, title: titleOf(b) }))"
        label="A line for each"
        @update:model-value="at.by = $event === info?.by[0] ? '' : $event"
      />
      <DateField
        v-if="at.measure !== 'last-touch'"
        :model-value="at.from || (sheet?.from ?? '')"
        class="day"
        label="From"
        required
        @update:model-value="at.from = $event"
      />
      <DateField
        v-if="at.measure !== 'last-touch'"
        :model-value="at.until || (sheet?.until ?? '')"
        class="day"
        label="Until"
        required
        @update:model-value="at.until = $event"
      />
      <v-select v-if="teams.length > 2" v-model="at.team" class="narrow" :items="teams" label="Team" />
      <v-select
        v-if="channels.length > 2 && (info?.by.includes('channel') || at.measure === 'stages')"
        v-model="at.channel"
        class="narrow"
        :items="channels"
        label="Channel"
      />
    </div>
    <div class="panes">
      <div class="pane main measure" :aria-busy="asyncStatus === 'loading'">
        <StateNote
          v-if="error || !sheet"
          :error="error"
          :loading="asyncStatus === 'loading'"
          @again="refetch()"
        />
        <template v-else>
          <p class="says">{{ sheet.says }}</p>
          <p v-if="sheet.hiddenSays" class="quiet">{{ sheet.hiddenSays }}</p>
          <template v-if="sheet.total.basis">
            <!-- its room is there before it is: nothing below it jumps -->
            <div :style="{ minHeight: `${heightOf(sheet)}px` }">
              <MeasurePlot ref="plot" :sheet="sheet" @pick="(line, column) => open({ line, column })" />
            </div>
            <FigureTable :sheet="sheet" :opened="figure" />
            <p class="save">
              <v-btn size="small" variant="text" :href="csv">Save as CSV</v-btn>
              <v-btn size="small" variant="text" @click="plot?.saveAs('svg')">Plot as SVG</v-btn>
              <v-btn size="small" variant="text" @click="plot?.saveAs('png')">Plot as PNG</v-btn>
            </p>
          </template>
          <dl class="words">
            <dt>Counts</dt>
            <dd>{{ sheet.measure.counts }}</dd>
            <dt>Leaves out</dt>
            <dd>{{ sheet.measure.leavesOut }}</dd>
            <dt>Out of</dt>
            <dd>{{ sheet.measure.outOf }}</dd>
            <dt>Day</dt>
            <dd>{{ sheet.measure.day }} In {{ sheet.zone }}.</dd>
          </dl>
        </template>
      </div>
      <FigureRows
        v-if="figure && sheet"
        class="pane"
        :name="at.measure"
        :narrowed="narrowed"
        :figure="figure"
        :label="label"
        @close="open(null)"
      />
    </div>
    <StageForm v-model="editing" />
  </div>
</template>

<style scoped>
.measure {
  padding: 14px 20px;
}
.says {
  font-size: 17px;
  margin-bottom: 10px;
}
.narrow {
  max-width: 190px;
}
.day {
  max-width: 150px;
}
.save {
  display: flex;
  gap: 8px;
  margin: 6px 0 14px;
}
.words {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 4px 12px;
  max-width: 900px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.words dt {
  color: var(--quiet);
}
</style>
