<script setup lang="ts">
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'

type Entry = Schemas['EntryInfo']
defineProps<{ entries: Entry[] }>()

const PAGES: Record<string, string> = {
  policy: '/policy',
  policies: '/policy',
  exclusion: '/exclusions',
  connection: '/connections',
  server: '/connections',
  person: '/coverage',
  directory: '/directory',
  company: '/directory',
}

/** What of two states differs; a single state as it is. */
function lines(e: Entry): string[] {
  const before: unknown = e.before ? JSON.parse(e.before) : null
  const after: unknown = e.after ? JSON.parse(e.after) : null
  if (Array.isArray(before) && Array.isArray(after) && before.length === after.length) {
    return after.map((now, i) => (now === before[i] ? '' : `${before[i]} → ${now}`)).filter(Boolean)
  }
  if (before === null || after === null) return [said(after ?? before)]
  return [`${said(before)} → ${said(after)}`]
}

function said(value: unknown): string {
  if (Array.isArray(value)) return value.map(said).join(' ')
  if (value && typeof value === 'object')
    return Object.entries(value)
      .filter(([, v]) => v !== '')
      .map(([k, v]) => `${k} ${said(v)}`)
      .join(', ')
  return value === null ? '' : String(value)
}
</script>

<template>
  <v-table class="plain">
    <thead>
      <tr>
        <th class="num">No</th>
        <th>When</th>
        <th>Who</th>
        <th>Did what</th>
        <th>Before and after</th>
        <th>Hash</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="e in entries" :key="e.number">
        <td class="num">{{ e.number }}</td>
        <td class="nowrap"><WhenAt :at="e.at" /></td>
        <td class="nowrap">{{ e.who }}</td>
        <td>
          {{ e.what }} {{ e.kind }}
          <router-link v-if="PAGES[e.kind]" :to="PAGES[e.kind]!">{{ e.name }}</router-link>
          <template v-else>{{ e.name }}</template>
        </td>
        <td>
          <div v-for="(l, i) in lines(e).slice(0, 6)" :key="i">{{ l }}</div>
        </td>
        <td class="mono quiet">{{ e.hash.slice(0, 10) }}</td>
      </tr>
    </tbody>
  </v-table>
</template>
