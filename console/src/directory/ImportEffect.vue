<script setup lang="ts">
import { computed } from 'vue'
import type { Preview } from './imports'

/** What a file would do, with examples, and what is wrong with the lines that it leaves out. */
const props = defineProps<{
  preview: Preview
  id: string
  /** Of our columns, by their keys. */
  names: Record<string, string>
  older: boolean
}>()
const counts = computed(() => [
  { n: props.preview.added, what: 'added' },
  { n: props.preview.changed, what: 'changed' },
  { n: props.preview.unchanged, what: 'as they are' },
  { n: props.preview.refused, what: 'left out' },
])
const WORDS: Record<string, string> = {
  added: 'is added',
  changed: 'is changed',
  unchanged: 'stays as it is',
}
</script>

<template>
  <section class="effect" :class="{ older }" aria-live="polite" aria-label="What it would do">
    <p v-if="preview.missing.length" class="bad">
      Say which column is the
      {{ preview.missing.map((c) => (names[c] ?? c).toLowerCase()).join(' and which the ') }}.
    </p>
    <template v-else>
      <p class="counts">
        <span v-for="c in counts" :key="c.what" :class="{ quiet: !c.n }">
          <b>{{ c.n.toLocaleString('en-GB') }}</b> {{ c.what }}
        </span>
      </p>
      <div class="sides">
        <ul v-if="preview.examples.length" aria-label="Examples">
          <li v-for="e in preview.examples" :key="e.line">
            <span class="quiet line">line {{ e.line }}</span> {{ e.name }}
            <span class="quiet">{{ WORDS[e.becomes] }}</span>
          </li>
        </ul>
        <ul v-if="preview.problems.length" aria-label="Left out">
          <li v-for="(p, i) in preview.problems.slice(0, 12)" :key="i">
            <span class="quiet line">line {{ p.line }}</span>
            <template v-if="p.column">{{ names[p.column] ?? p.column }}: </template>{{ p.reason }}
          </li>
          <li>
            <a :href="`/api/imports/${id}/refused.csv`" download>Download all lines that are left out</a>
          </li>
        </ul>
      </div>
    </template>
    <p class="acts"><slot /></p>
  </section>
</template>

<style scoped>
.effect {
  display: grid;
  gap: 12px;
}
.older {
  opacity: 0.6;
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  font-size: 15px;
}
.sides {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 12px 24px;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 2px 0;
}
.line {
  margin-right: 0.4em;
}
.bad {
  color: rgb(var(--v-theme-error));
}
.acts {
  display: flex;
  gap: 8px;
}
b {
  font-weight: 650;
}
</style>
