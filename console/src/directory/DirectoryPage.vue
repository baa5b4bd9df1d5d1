<script setup lang="ts">
import { computed, reactive } from 'vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import CompanyDomains from './CompanyDomains.vue'
import DirectoryTable from './DirectoryTable.vue'
import ImportFiles from './ImportFiles.vue'
import NewRecord from './NewRecord.vue'
import OwnFields from './OwnFields.vue'
import { KINDS } from './columns'
import type { Kind } from './queries'

/** Customers and our own people: tables to work in, files to fill them, and whose domains are whose. */
const shown = reactive({ kind: 'accounts' })
useInAddress(shown)
const { isAdministrator } = useMe()
const views = computed(() => [
  ...KINDS.map(({ value, title }) => ({ value, title })),
  ...(isAdministrator.value
    ? [
        { value: 'import', title: 'Import' },
        { value: 'domains', title: 'Domains' },
      ]
    : []),
])
const table = computed(() => KINDS.find((k) => k.value === shown.kind)?.value as Kind | undefined)
</script>

<template>
  <div class="page">
    <header>
      <h1>Directory</h1>
      <ViewTabs v-model="shown.kind" :views="views" label="What to show" />
      <OwnFields v-if="isAdministrator && table === 'contacts'" />
      <NewRecord v-if="isAdministrator && table && table !== 'people'" :key="table" :kind="table" />
    </header>
    <div class="panes">
      <div class="pane wide">
        <DirectoryTable v-if="table" :key="table" :kind="table" />
        <ImportFiles v-else-if="shown.kind === 'import'" />
        <CompanyDomains v-else />
      </div>
    </div>
  </div>
</template>

<style scoped>
header {
  align-items: center;
}
.wide {
  flex: 1;
}
</style>
