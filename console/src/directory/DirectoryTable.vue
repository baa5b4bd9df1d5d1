<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiDownload, mdiFilterOutline, mdiViewColumnOutline } from '@mdi/js'
import { computed, reactive, ref, watch } from 'vue'
import FindField from '../kernel/FindField.vue'
import PickCell from '../kernel/PickCell.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { dateText, many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import BulkBar from './BulkBar.vue'
import PersonFacts from './PersonFacts.vue'
import { KINDS, NUMBERS, headingOf, shown } from './columns'
import { useShownColumns } from './useShownColumns'
import { PER_PAGE, filtersOf, queryOf, useTable, whereOf, type Column, type Kind, type Row } from './queries'

/** One kind of the directory: found, filtered by any column, sorted and turned over by the service; several rows changed at once. */
const props = defineProps<{ kind: Kind }>()
const NARROWED =
  'Take a filter away. A filter finds a part of a cell; “=” and the whole cell finds exactly that, and “-” finds empty ones.'
/** More columns than that are narrower each. */
const MANY = 6
const { isAdministrator } = useMe()
const narrowed = reactive({ find: '', sort: 'name', where: '', archived: '', page: '1' })
useInAddress(narrowed)
const wanted = computed(() => ({ ...narrowed, page: Number(narrowed.page) || 1 }))
const settled = refDebounced(wanted, 200)
const { data, error, isPlaceholderData } = useTable(() => props.kind, settled)
const { columns, hidden, toggle } = useShownColumns(
  () => props.kind,
  () => data.value?.columns ?? [],
)
const filters = computed(() => filtersOf(narrowed.where))
const filtering = ref(narrowed.where !== '')
const chosen = ref<string[]>([])
const person = ref('')
const rows = computed(() => data.value?.rows ?? [])
const selected = computed(() => rows.value.filter((r) => chosen.value.includes(r.id)))
const pages = computed(() => Math.max(1, Math.ceil((data.value?.total ?? 0) / PER_PAGE)))
const isNarrowed = computed(() => narrowed.find !== '' || narrowed.where !== '' || narrowed.archived !== '')
watch(
  () => [narrowed.find, narrowed.where, narrowed.archived, narrowed.sort],
  () => (narrowed.page = '1'),
)
watch(rows, () => (chosen.value = chosen.value.filter((id) => rows.value.some((r) => r.id === id))))

function sort(column: string) {
  narrowed.sort = narrowed.sort === column ? `-${column}` : column
}
function filter(column: string, text: string | null) {
  narrowed.where = whereOf({ ...filters.value, [column]: text ?? '' })
}
function all(on: boolean | null) {
  chosen.value = on ? rows.value.map((r) => r.id) : []
}
function pick(row: Row, on: boolean | null) {
  chosen.value = on ? [...chosen.value, row.id] : chosen.value.filter((id) => id !== row.id)
}
function file(format: string) {
  const query = new URLSearchParams(
    Object.entries(queryOf(wanted.value)).map(([name, value]) => [name, String(value)]),
  )
  return `/api/directory/${props.kind}/export.${format}?${query.toString()}`
}
function text(row: Row, column: Column) {
  const cell = shown(row, column.name)
  return column.type === 'day' && cell ? dateText(cell) : cell
}
</script>

<template>
  <div class="bar">
    <FindField v-model="narrowed.find" placeholder="name, key, address or domain" does="Find in the table" />
    <v-btn
      size="small"
      variant="text"
      :prepend-icon="mdiFilterOutline"
      :aria-pressed="filtering"
      @click="filtering = !filtering"
      >Filters{{ Object.keys(filters).length ? ` (${Object.keys(filters).length})` : '' }}</v-btn
    >
    <v-menu :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" variant="text" :prepend-icon="mdiViewColumnOutline">Columns</v-btn>
      </template>
      <v-card class="pa-3" role="dialog" aria-label="Columns">
        <v-checkbox
          v-for="c in (data?.columns ?? []).filter((x) => x.name !== 'name')"
          :key="c.name"
          :label="headingOf(c)"
          :model-value="!hidden.includes(c.name)"
          @update:model-value="toggle(c.name)"
        />
      </v-card>
    </v-menu>
    <v-checkbox
      v-if="kind !== 'people'"
      :model-value="narrowed.archived === 'yes'"
      label="Archived"
      @update:model-value="narrowed.archived = $event ? 'yes' : ''"
    />
    <span class="quiet count" aria-live="polite">{{
      data ? many(data.total, KINDS.find((k) => k.value === kind)!.one, kind) : ''
    }}</span>
    <v-btn size="small" variant="text" :prepend-icon="mdiDownload" :href="file('csv')" download>CSV</v-btn>
    <v-btn size="small" variant="text" :prepend-icon="mdiDownload" :href="file('xlsx')" download>Excel</v-btn>
  </div>
  <BulkBar v-if="selected.length" :kind="kind" :rows="selected" @done="chosen = []" />
  <StateNote v-if="error && !data" :error="error" />
  <StateNote v-else-if="!data" loading />
  <template v-else>
    <v-table class="plain" :class="{ older: isPlaceholderData, many: columns.length > MANY }">
      <thead>
        <tr>
          <PickCell
            v-if="isAdministrator"
            :model-value="rows.length > 0 && chosen.length === rows.length"
            :some="chosen.length > 0 && chosen.length < rows.length"
            label="All on this page"
            @update:model-value="all"
          />
          <th
            v-for="c in columns"
            :key="c.name"
            :class="{ num: NUMBERS.includes(c.type) }"
            :aria-sort="
              narrowed.sort === c.name ? 'ascending' : narrowed.sort === `-${c.name}` ? 'descending' : 'none'
            "
          >
            <text-btn
              class="sort"
              :append-icon="
                narrowed.sort === c.name
                  ? mdiArrowUp
                  : narrowed.sort === `-${c.name}`
                    ? mdiArrowDown
                    : undefined
              "
              @click="sort(c.name)"
              >{{ headingOf(c) }}</text-btn
            >
          </th>
        </tr>
        <tr v-if="filtering">
          <td v-if="isAdministrator"></td>
          <td v-for="c in columns" :key="c.name" class="filter">
            <v-text-field
              :model-value="filters[c.name] ?? ''"
              :aria-label="`${headingOf(c)} has`"
              placeholder="has…"
              clearable
              @update:model-value="filter(c.name, $event)"
            />
          </td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.id" :class="{ picked: chosen.includes(r.id) }">
          <PickCell
            v-if="isAdministrator"
            :model-value="chosen.includes(r.id)"
            :label="`Select ${r.values.name}`"
            @update:model-value="pick(r, $event)"
          />
          <td
            v-for="c in columns"
            :key="c.name"
            :class="{ num: NUMBERS.includes(c.type), mono: c.name === 'key', name: c.name === 'name' }"
          >
            <text-btn v-if="c.name === 'name' && kind === 'people'" @click="person = r.id">{{
              r.values.name
            }}</text-btn>
            <router-link
              v-else-if="c.name === 'name'"
              :to="{ path: `/timeline/${r.id}`, query: { view: 'facts' } }"
              ><b>{{ r.values.name }}</b></router-link
            >
            <span v-else class="cell" :title="text(r, c)">{{ text(r, c) }}</span>
          </td>
        </tr>
      </tbody>
    </v-table>
    <StateNote
      v-if="!rows.length"
      :empty="isNarrowed ? 'Nothing fits' : `There are no ${kind} yet`"
      :todo="isNarrowed ? NARROWED : 'Import a file, or make one by hand.'"
    />
    <v-pagination
      v-if="pages > 1"
      :model-value="wanted.page"
      :length="pages"
      :total-visible="7"
      density="compact"
      class="pages"
      @update:model-value="narrowed.page = String($event)"
    />
  </template>
  <PersonFacts v-if="person" :id="person" :key="person" @close="person = ''" />
</template>

<style scoped>
.bar {
  flex-wrap: wrap;
  padding-top: 10px;
}
.count {
  flex: 1;
}
.sort {
  text-decoration: none;
  font-size: inherit;
  font-weight: inherit;
}
.cell {
  display: block;
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.many .cell {
  max-width: 190px;
}
.name {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.num .cell {
  max-width: none;
}
.filter {
  padding-block: 4px !important;
}
.filter :deep(.v-field) {
  min-width: 90px;
}
.picked td {
  background: var(--picked);
}
.older {
  opacity: 0.6;
}
.pages {
  margin: 8px 0;
}
</style>
