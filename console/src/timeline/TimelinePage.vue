<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOpened } from '../kernel/useOpened'
import { useShortcuts } from '../kernel/shortcuts'
import RecordFacts from '../directory/RecordFacts.vue'
import ActivityPanel from './ActivityPanel.vue'
import FoundList from './FoundList.vue'
import RecordHead from './RecordHead.vue'
import RecordPicker from './RecordPicker.vue'
import RecordTimeline from './RecordTimeline.vue'

const route = useRoute()
const router = useRouter()
const record = computed(() => String(route.params.record ?? ''))
const words = computed(() => String(route.query.words ?? '').trim())
const opened = useOpened()
const facts = computed(() => route.query.view === 'facts')

function pick(id: string) {
  void router.push(`/timeline/${id}`)
}
/** Beside the record, which stands again once the words are gone. */
function find(wanted: string) {
  void router.replace({ path: route.path, query: wanted ? { words: wanted } : {} })
}
useShortcuts([{ keys: 'Escape', does: 'Close what is open', run: () => (opened.value = '') }])
</script>

<template>
  <div class="page">
    <div class="panes first">
      <RecordPicker
        :class="['pane', 'picker', { chosen: record || words }]"
        :picked="record"
        :words="words"
        @pick="pick"
        @find="find"
      />
      <div :class="['pane', 'line', { chosen: record || words }]">
        <FoundList v-if="words" :words="words" :opened="opened" @open="opened = $event" />
        <template v-else-if="record">
          <RecordHead :id="record" />
          <RecordFacts v-if="facts" :id="record" :key="record" />
          <RecordTimeline v-else :key="record" :record="record" :opened="opened" @open="opened = $event" />
        </template>
        <div v-else class="note">
          <h1>Pick a record on the left</h1>
          <p>Its mail and meetings are listed newest first, each with the reason why it is there.</p>
          <p>Or search all timelines for what was written, by whom, and when.</p>
        </div>
      </div>
      <ActivityPanel
        v-if="opened"
        :id="opened"
        class="pane detail"
        @close="opened = ''"
        @open="opened = $event"
      />
    </div>
  </div>
</template>

<style scoped>
.first {
  border-top: 0;
}
.picker {
  flex: 0 0 248px;
  display: flex;
  flex-direction: column;
  overflow: hidden;
}
.line {
  flex: 1 1 400px;
}
.detail {
  flex: 0 1 400px !important;
  min-width: 340px;
}
/* one at a time where there is room for one */
@media (max-width: 760px) {
  .picker.chosen,
  .line:not(.chosen) {
    display: none;
  }
}
</style>
