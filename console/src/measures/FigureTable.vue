<script setup lang="ts">
import { useRoute } from 'vue-router'
import { compared, shown, titleOf } from './figures'
import type { Figure, MeasureSheet } from './queries'

/** A measure's figures; each opens to what it counts. */
const props = defineProps<{ sheet: MeasureSheet; opened: Figure | null }>()
const route = useRoute()
/** Where it stands open beside the table. */
function opening(column: string, line?: string) {
  return { query: { ...route.query, column, line } }
}
function isOpened(column: string, line?: string): boolean {
  return props.opened?.column === column && props.opened.line === line
}
function few(basis: number): string {
  return basis > 0 && basis < props.sheet.few ? `${basis} only` : ''
}
</script>

<template>
  <div class="scrolls">
    <v-table class="plain figures" :aria-label="titleOf(sheet.measure.name)">
      <thead>
        <tr>
          <th>{{ titleOf(sheet.by) }}</th>
          <th v-for="c in sheet.columns" :key="c.name" class="num">{{ c.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="l in [...sheet.lines, { ...sheet.total, key: undefined }]"
          :key="l.key ?? '*'"
          :class="{ total: l.key === undefined }"
        >
          <th scope="row">
            {{ l.label }}
            <span v-if="l.key !== undefined && few(l.basis)" class="quiet few" title="So few say little">{{
              few(l.basis)
            }}</span>
          </th>
          <td v-for="(c, i) in sheet.columns" :key="c.name" class="num">
            <router-link
              v-if="l.cells[i]?.rows"
              :to="opening(c.name, l.key)"
              :class="{ opened: isOpened(c.name, l.key) }"
              :aria-label="`${shown(l.cells[i]?.value, c)} ${c.name}, ${l.label}`"
              >{{ shown(l.cells[i]?.value, c) }}</router-link
            >
            <span v-else class="quiet">{{ shown(l.cells[i]?.value, c) }}</span>
          </td>
        </tr>
        <tr v-if="sheet.before?.basis">
          <th scope="row" class="quiet">Time before</th>
          <td v-for="(c, i) in sheet.columns" :key="c.name" class="num quiet">
            {{ compared(sheet.total.cells[i]?.value, sheet.before.cells[i]?.value, c) }}
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.scrolls {
  overflow-x: auto;
}
.figures th[scope='row'] {
  text-align: left;
  font-weight: 400;
  white-space: nowrap;
}
.total > * {
  border-top: 2px solid var(--line);
  font-weight: 600 !important;
}
.few {
  margin-left: 8px;
  font-size: 12px;
}
.figures thead th {
  white-space: normal;
  min-width: 62px;
  line-height: 1.2;
  vertical-align: bottom;
}
.figures :is(td, th) {
  padding-inline: 8px;
}
.figures a:not(:hover, .opened) {
  text-decoration: underline dotted var(--line);
}
</style>
