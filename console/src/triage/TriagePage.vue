<script setup lang="ts">
import { computed, reactive, ref, toRefs } from 'vue'
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
const said = ref('')
const table = ref<InstanceType<typeof StrangerTable> | null>(null)

function settled(says: string) {
  said.value = says
  ticked.value = []
  // the next row moves up to where the keys stand
  setTimeout(() => table.value?.focus(), 60)
}
useShortcuts([
  { keys: '/', does: 'Find a person', run: () => document.getElementById('find-stranger')?.focus() },
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
      <label class="field"
        >find<input id="find-stranger" v-model="find" type="search" placeholder="part of a name or address"
      /></label>
      <span class="quiet" aria-live="polite">{{
        data ? `${many(data.total, 'person', 'people')}, ${data.waiting} with items on no timeline` : '…'
      }}</span>
      <span v-if="said" role="status">{{ said }}</span>
    </div>
    <div class="panes">
      <div class="pane list" :class="{ stale: isPlaceholderData }" :aria-busy="isPlaceholderData">
        <StateNote
          v-if="error || !rows.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          :empty="find ? 'Nobody unmatched has that in name or address' : 'Everybody matches a record'"
          :todo="find ? 'Shorten it.' : 'New people from mail and meetings appear here.'"
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
        <p v-else class="quiet only">An administrator settles who they are.</p>
        <DeedList v-if="isAdministrator" @said="said = $event" />
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
