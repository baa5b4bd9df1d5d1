<script setup lang="ts">
import { computed, reactive, ref, toRefs } from 'vue'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import DeedList from './DeedList.vue'
import SettlePanel from './SettlePanel.vue'
import StrangerTable from './StrangerTable.vue'
import { useStrangers } from './queries'
import { useSelection } from './selection'

const { isAdministrator } = useMe()
const narrowed = reactive({ find: '' })
useInAddress(narrowed)
const { find } = toRefs(narrowed)
const { data, error, asyncStatus, isPlaceholderData, refetch } = useStrangers(refDebounced(find, 150))
const domains = computed(() => data.value?.domains ?? [])
const { ticked, current, rows, meant, whole, domainOf, tick, tickDomain } = useSelection(domains)
const table = ref<InstanceType<typeof StrangerTable> | null>(null)

function settled() {
  ticked.value = []
  // the next row moves up to where the keys stand
  setTimeout(() => table.value?.focus(), 60)
}
useShortcuts([
  {
    keys: 'd',
    does: 'Choose all of the domain',
    run: () => {
      const domain = domainOf.value.get(rows.value[current.value]?.address ?? '')
      if (domain) tickDomain(domain)
    },
  },
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Triage</h1>
      <span class="quiet">people on mail and meetings who match no record, best first</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="part of a name or address" does="Find a person" />
      <span class="quiet" aria-live="polite">{{
        data ? `${many(data.total, 'person', 'people')}, ${data.waiting} with items on no timeline` : '…'
      }}</span>
    </div>
    <div class="panes">
      <div class="pane list" :class="{ stale: isPlaceholderData }" :aria-busy="isPlaceholderData">
        <StateNote
          v-if="error || !rows.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="find ? 'Nobody unmatched has that in name or address' : 'Everybody matches a record'"
          :todo="find ? 'Shorten what you look for.' : 'New people from mail and meetings appear here.'"
          @again="refetch()"
        />
        <StrangerTable
          v-else
          ref="table"
          v-model:current="current"
          :domains="domains"
          :ticked="ticked"
          @tick="tick"
          @tick-domain="tickDomain"
        />
      </div>
      <div class="pane detail side">
        <SettlePanel v-if="isAdministrator" :meant="meant" :whole="whole" @settled="settled" />
        <p v-else class="quiet only">Only an administrator decides who they are.</p>
        <DeedList v-if="isAdministrator" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
.side {
  flex: 0 0 360px !important;
}
.only {
  padding: 16px;
}
</style>
