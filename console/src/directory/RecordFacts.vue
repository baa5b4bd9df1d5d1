<script setup lang="ts">
import { computed } from 'vue'
import ContactBooks from '../contacts/ContactBooks.vue'
import StateNote from '../kernel/StateNote.vue'
import { useMe } from '../kernel/useMe'
import { useRecord } from '../timeline/queries'
import FactsForm from './FactsForm.vue'
import MergeInto from './MergeInto.vue'
import RecordHistory from './RecordHistory.vue'
import TwinNote from './TwinNote.vue'
import { kindOf, shown } from './columns'
import { useColumns, usePartOf, useRow, type Mergeable } from './queries'

/** What is known of a record: its facts, and what belongs to it. */
const props = defineProps<{ id: string }>()
const { data: record } = useRecord(() => props.id)
const kind = computed(() => kindOf(record.value?.kind ?? ''))
const { data: row, error } = useRow(kind, () => props.id)
const columns = useColumns(kind)
const { isAdministrator } = useMe()
/** Of this kind, two can be made one. */
const merges = computed<Mergeable | undefined>(() =>
  (['contact', 'account', 'lead'] as const).find((k) => k === record.value?.kind),
)
const isAccount = computed(() => record.value?.kind === 'account')
const key = computed(() => row.value?.key ?? '')
const { data: contacts } = usePartOf('contacts', 'account', key, isAccount)
const { data: opportunities } = usePartOf('opportunities', 'account', key, isAccount)
const { data: parts } = usePartOf('accounts', 'part_of', key, isAccount)
const lists = computed(() =>
  [
    { title: 'Contacts', page: contacts.value, about: ['title', 'addresses'] },
    { title: 'Opportunities', page: opportunities.value, about: ['stage', 'state', 'value', 'currency'] },
    { title: 'Parts of it', page: parts.value, about: ['domains'] },
  ].filter((l) => l.page?.total),
)
</script>

<template>
  <div class="body">
    <StateNote v-if="error && !row" :error="error" />
    <StateNote v-else-if="!row || !columns || !kind" loading />
    <template v-else>
      <p v-if="row.archived" class="archived" role="status">
        Archived: it is in no list. What is exchanged with it is logged all the same, so that nothing is lost.
      </p>
      <TwinNote
        v-if="(kind === 'contacts' || isAccount) && isAdministrator && !row.archived"
        :id="id"
        :is-account="isAccount"
      />
      <FactsForm :key="id" :kind="kind" :row="row" :columns="columns" :may-change="isAdministrator">
        <MergeInto v-if="merges" :row="row" :kind="merges" />
      </FactsForm>
      <RecordHistory v-if="kind === 'opportunities'" :id="id" />
      <ContactBooks v-if="kind === 'contacts'" :id="id" :may-change="isAdministrator" />
      <section v-for="l in lists" :key="l.title">
        <h2>
          {{ l.title }} <span class="quiet">{{ l.page!.total }}</span>
        </h2>
        <ul>
          <li v-for="r in l.page!.rows" :key="r.id">
            <router-link :to="`/timeline/${r.id}`">{{ r.values.name }}</router-link>
            <span class="quiet">{{
              l.about
                .map((c) => shown(r, c))
                .filter(Boolean)
                .join(' · ')
            }}</span>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.body {
  padding: 16px 20px;
  display: grid;
  gap: 20px;
  overflow-y: auto;
}
ul {
  list-style: none;
  padding: 0;
}
li {
  padding: 4px 0;
}
.archived {
  border-left: 3px solid rgb(var(--v-theme-waiting));
  padding-left: 8px;
}
</style>
