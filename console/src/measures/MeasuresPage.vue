<script setup lang="ts">
import { computed, defineAsyncComponent, reactive, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import FigureRows from './FigureRows.vue'
import FigureTable from './FigureTable.vue'
import KeptMenu from './KeptMenu.vue'
import MeasureFilters from './MeasureFilters.vue'
import StageForm from './StageForm.vue'
import WorkingHoursForm from './WorkingHoursForm.vue'
import { heightOf, isOfCapture, titleOf } from './figures'
import { asked, useFigures, useMeasures, type Figure, type Narrowed } from './queries'

/** What it takes to win: one question at a time, with its figure, a plot and what stands behind. */
const MeasurePlot = defineAsyncComponent(() => import('./MeasurePlot.vue'))
const NAMES = [
  'first-meetings',
  'after-two-meetings',
  'to-win',
  'stages',
  'last-touch',
  'contact',
  'reply-times',
  'capture',
  'decided-again',
  'coverage',
]

const route = useRoute()
const router = useRouter()
const { data: me } = useMe()
const { data: measures } = useMeasures()
const at = reactive({
  measure: NAMES[0]!,
  by: '',
  from: '',
  until: '',
  team: '',
  owner: '',
  account: '',
  channel: '',
  column: '',
  line: '*',
})
useInAddress(at)
const info = computed(() => measures.value?.find((m) => m.name === at.measure))
const narrowed = computed<Narrowed>({
  get: () => ({
    by: info.value?.by.includes(at.by) ? at.by : '',
    from: at.from,
    until: at.until,
    team: at.team,
    owner: at.owner,
    account: isOfCapture(at.measure) ? '' : at.account,
    channel: info.value?.by.includes('channel') || at.measure === 'stages' ? at.channel : '',
  }),
  set: (wanted) => void Object.assign(at, wanted),
})
const { data: sheet, error, asyncStatus, refetch } = useFigures(() => at.measure, narrowed)
const figure = computed<Figure | null>(() =>
  sheet.value?.columns.some((c) => c.name === at.column)
    ? { column: at.column, ...(route.query.line !== undefined && { line: at.line }) }
    : null,
)
const label = computed(() => sheet.value?.lines.find((l) => l.key === figure.value?.line)?.label ?? 'all')
/** The tenth by the key after the 9. */
const keyOf = (i: number) => String((i + 1) % 10)
const tabs = NAMES.map((n, i) => ({ value: n, title: titleOf(n), keys: keyOf(i) }))
function file(ending: string): string {
  return `/api/measures/${at.measure}/figures.${ending}?${new URLSearchParams(asked(narrowed.value))}`
}
const plot = ref<{ saveAs: (kind: 'svg' | 'png') => void } | null>(null)
const editing = ref(false)
const editingHours = ref(false)
function show(measure: string) {
  void router.replace({
    query: { ...route.query, measure, by: undefined, column: undefined, line: undefined },
  })
}
/** One that was kept: whatever else was chosen is not of it. */
function showKept(measure: string, query: Record<string, string>) {
  void router.push({ query: { ...query, zone: undefined, measure } })
}
function open(figure: Figure | null) {
  void router.replace({ query: { ...route.query, column: figure?.column, line: figure?.line } })
}
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => open(null) },
  ...NAMES.map((n, i) => ({ keys: keyOf(i), does: `Show ${titleOf(n)}`, run: () => show(n) })),
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Measures</h1>
      <span class="quiet">{{ info?.asks }}</span>
      <span class="ml-auto">
        <v-btn
          v-if="me?.role === 'administrator' && at.measure === 'reply-times'"
          size="small"
          variant="text"
          @click="editingHours = true"
          >Working hours</v-btn
        >
        <v-btn
          v-else-if="me?.role === 'administrator' && !isOfCapture(at.measure)"
          size="small"
          variant="text"
          @click="editing = true"
          >Stages, channels, results</v-btn
        >
        <KeptMenu :measure="at.measure" :narrowed="narrowed" @show="showKept" />
      </span>
    </header>
    <div class="bar">
      <ViewTabs :model-value="at.measure" :views="tabs" label="Which measure" @update:model-value="show" />
    </div>
    <MeasureFilters v-model="narrowed" :info="info" :sheet="sheet ?? undefined" />
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
              <v-btn size="small" variant="text" :href="file('csv')">Save as CSV</v-btn>
              <v-btn size="small" variant="text" :href="file('xlsx')">Save as workbook</v-btn>
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
    <WorkingHoursForm v-model="editingHours" />
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
.save {
  display: flex;
  flex-wrap: wrap;
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
