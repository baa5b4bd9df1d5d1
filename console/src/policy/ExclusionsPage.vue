<script setup lang="ts">
import { computed, reactive, ref, toRefs } from 'vue'
import type { Schemas } from '../api/client'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import AddExclusions from './AddExclusions.vue'
import ExclusionTable from './ExclusionTable.vue'
import RemoveExclusion from './RemoveExclusion.vue'
import { useExclusions } from './exclusionQueries'

const { isAdministrator, seesAll } = useMe()
const { data, error, asyncStatus, refetch } = useExclusions()
const narrowed = reactive({ find: '' })
useInAddress(narrowed)
const { find } = toRefs(narrowed)
const shown = computed(
  () =>
    data.value?.filter((e) =>
      (e.what + ' ' + e.reason).toLowerCase().includes(find.value.trim().toLowerCase()),
    ) ?? [],
)
const removing = ref<Schemas['ExclusionInfo'] | null>(null)
</script>

<template>
  <div class="page">
    <header>
      <h1>Exclusions</h1>
      <span class="quiet">never captured, no matter who else takes part</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="part of it, or of its reason" does="Find among the exclusions" />
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'exclusion') : '…' }}</span>
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
              ? 'Shorten what you look for.'
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
      <AddExclusions class="pane detail add" :mine="!isAdministrator" />
    </div>
    <RemoveExclusion v-if="removing" :exclusion="removing" @close="removing = null" />
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
