<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import type { Schemas } from '../api/client'
import { asked, useBehind, type Figure, type Narrowed } from './queries'

/** Exactly what a figure counts. */
const props = defineProps<{ name: string; narrowed: Narrowed; figure: Figure; label: string }>()
const emit = defineEmits<{ close: [] }>()
const { data, error, asyncStatus, refetch } = useBehind(
  () => props.name,
  () => props.narrowed,
  () => props.figure,
)
/** Where it stands. */
function to(r: Schemas['MeasureRow']) {
  if (r.kind === 'decision') return { path: '/decisions', query: { open: r.record } }
  if (r.kind === 'person') return { path: '/coverage', query: { find: r.recordName } }
  const path = `/timeline/${r.record}`
  return r.meeting ? { path, query: { open: r.meeting } } : path
}
const file = (ending: string) =>
  `/api/measures/${props.name}/rows.${ending}?${new URLSearchParams({ ...asked(props.narrowed), ...props.figure })}`
</script>

<template>
  <article class="detail rows">
    <header>
      <h2>{{ figure.column }}, {{ label }}</h2>
      <v-btn
        :icon="mdiClose"
        size="x-small"
        variant="text"
        aria-label="Close"
        title="Close (Esc)"
        @click="emit('close')"
      />
    </header>
    <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
    <template v-else>
      <p class="quiet">
        {{ many(data.total, 'row')
        }}<template v-if="data.rows.length < data.total">, the first {{ data.rows.length }} of them</template>
      </p>
      <p>
        <v-btn size="small" variant="text" :href="file('csv')">Save as CSV</v-btn>
        <v-btn size="small" variant="text" :href="file('xlsx')">Save as workbook</v-btn>
      </p>
      <ul>
        <li v-for="r in data.rows" :key="`${r.meeting} ${r.record}`">
          <router-link :to="to(r)">{{ r.title || r.recordName }}</router-link>
          <span class="quiet">
            <template v-if="r.at"
              ><WhenAt :at="r.at" />, {{ r.state
              }}<template v-if="r.title">, {{ r.recordName }}</template></template
            >
            <template v-else>{{ r.kind }}</template>
          </span>
        </li>
      </ul>
    </template>
  </article>
</template>

<style scoped>
.pane.detail.rows {
  padding: 14px 18px;
  flex: 0 0 340px;
}
h2::first-letter {
  text-transform: uppercase;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: start;
  gap: 12px;
}
header h2 {
  font-size: 15px;
}
ul {
  list-style: none;
  padding: 0;
  margin-top: 8px;
}
li {
  display: grid;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
li .quiet {
  font-size: 12px;
}
</style>
