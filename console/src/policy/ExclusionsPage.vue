<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import AddExclusions from './AddExclusions.vue'
import ExclusionTable from './ExclusionTable.vue'
import RemoveExclusion from './RemoveExclusion.vue'
import { useExclusions } from './exclusionQueries'

const { isAdministrator, seesAll } = useMe()
const { data, error, asyncStatus, refetch } = useExclusions()
const find = ref('')
const shown = computed(
  () =>
    data.value?.filter((e) =>
      (e.what + ' ' + e.reason).toLowerCase().includes(find.value.trim().toLowerCase()),
    ) ?? [],
)
const removing = ref<Schemas['ExclusionInfo'] | null>(null)
const said = ref('')

useShortcuts([
  {
    keys: '/',
    does: 'Find among the exclusions',
    run: () => document.getElementById('find-exclusion')?.focus(),
  },
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Exclusions</h1>
      <span class="quiet">never captured, no matter who else takes part</span>
    </header>
    <div class="bar">
      <label class="field"
        >find<input
          id="find-exclusion"
          v-model="find"
          type="search"
          placeholder="part of it, or of its reason"
      /></label>
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'exclusion') : '…' }}</span>
      <span v-if="said" role="status">{{ said }}</span>
    </div>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="error || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="data?.length ? 'No exclusion has that in it' : 'Nothing is excluded'"
          :todo="
            data?.length
              ? 'Shorten it.'
              : 'Add suppliers, agencies and private contacts on the right; what they cover leaves the timelines.'
          "
          @again="refetch()"
        />
        <ExclusionTable
          v-else
          :exclusions="shown"
          :may-remove="isAdministrator || !seesAll"
          @remove="removing = $event"
        />
      </div>
      <AddExclusions class="pane detail add" :mine="!isAdministrator" @said="said = $event" />
    </div>
    <RemoveExclusion v-if="removing" :exclusion="removing" @close="removing = null" @said="said = $event" />
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.add {
  flex: 0 0 380px !important;
}
</style>
