<script setup lang="ts">
import { mdiChevronRight, mdiMagnify } from '@mdi/js'
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useRecordsFor } from '../timeline/queries'
import { fits } from './fuzzy'
import { groupsFor } from './navigation'
import { refDebounced } from './refDebounced'
import { paletteIsOpen, useActiveShortcuts } from './shortcuts'
import { useMe } from './useMe'

/** Pages, records and what can be done here, by typing. */
interface Entry {
  id: string
  title: string
  about: string
  icon: string
  keys: string
  run: () => void
}
const MOST_RECORDS = 8
const router = useRouter()
const { me } = useMe()
const typed = ref('')
const at = ref(0)
const list = ref<HTMLElement | null>(null)
const { data: records } = useRecordsFor(refDebounced(typed, 150), MOST_RECORDS, paletteIsOpen)
const actions = useActiveShortcuts()

const pages = computed<Entry[]>(() =>
  groupsFor(me.value?.role ?? '').flatMap((g) =>
    g.pages.map((p) => ({
      id: p.path,
      title: p.name,
      about: g.heading || 'page',
      icon: p.icon,
      keys: p.keys,
      run: () => void router.push(p.path),
    })),
  ),
)
const here = computed<Entry[]>(() =>
  actions.value
    .filter((s) => !s.keys.startsWith('g ') && !s.hidden)
    .map((s) => ({
      id: `do ${s.keys}`,
      title: s.does,
      about: 'on this page',
      icon: mdiChevronRight,
      keys: s.keys,
      run: s.run,
    })),
)
const found = computed<Entry[]>(() => {
  const own = [...pages.value, ...here.value]
    .map((entry) => ({ entry, score: fits(typed.value, entry.title) }))
    .filter((e) => e.score > 0)
    .sort((a, b) => b.score - a.score)
    .map((e) => e.entry)
  const named = typed.value.trim()
    ? (records.value?.records ?? []).map((r) => ({
        id: r.id,
        title: r.name,
        about: r.stage ? `${r.kind}, ${r.stage}` : r.kind,
        icon: mdiMagnify,
        keys: '',
        run: () => void router.push(`/timeline/${r.id}`),
      }))
    : []
  return [...own.slice(0, named.length ? 6 : 40), ...named]
})

watch(paletteIsOpen, () => {
  typed.value = ''
  at.value = 0
})
watch(found, () => (at.value = Math.min(at.value, Math.max(0, found.value.length - 1))))

function move(by: number) {
  at.value = (at.value + by + found.value.length) % Math.max(1, found.value.length)
  void nextTick(() =>
    list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }),
  )
}
function choose(entry: Entry | undefined) {
  if (!entry) return
  paletteIsOpen.value = false
  void nextTick(entry.run)
}
</script>

<template>
  <v-dialog v-model="paletteIsOpen" max-width="560" aria-label="Find a page, record or action" scrollable>
    <v-card>
      <v-text-field
        v-model="typed"
        v-focus
        class="ma-3"
        placeholder="A page, a record, or what to do here"
        aria-label="What to look for"
        aria-controls="palette-list"
        :aria-activedescendant="found[at] ? `palette-${at}` : undefined"
        :prepend-inner-icon="mdiMagnify"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="choose(found[at])"
      />
      <div id="palette-list" ref="list" role="listbox" tabindex="0" aria-label="Found" class="found">
        <div
          v-for="(e, i) in found"
          :id="`palette-${i}`"
          :key="e.id"
          role="option"
          :aria-selected="i === at"
          class="entry"
          @click="choose(e)"
          @mousemove="at = i"
        >
          <v-icon :icon="e.icon" size="17" />
          <span class="clip">{{ e.title }}</span>
          <span class="quiet">{{ e.about }}</span>
          <kbd v-if="e.keys">{{ e.keys.replace('Arrow', '') }}</kbd>
        </div>
        <p v-if="!found.length" class="quiet none">Nothing fits “{{ typed }}”.</p>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.found {
  max-height: 50vh;
  overflow: auto;
  padding: 0 8px 8px;
}
.entry {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: center;
  padding: 5px 8px;
  border-radius: 6px;
  cursor: pointer;
}
.entry[aria-selected='true'] {
  background: var(--picked);
}
.none {
  padding: 8px;
}
</style>
