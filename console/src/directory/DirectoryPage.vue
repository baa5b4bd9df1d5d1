<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { mdiUpload } from '@mdi/js'
import { ref } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import CompanyDomains from './CompanyDomains.vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import { useRulesChanged } from '../policy/exclusionQueries'

const kinds = [
  { kind: 'people', columns: 'key, name, addresses, team, role', says: 'the people of the company' },
  {
    kind: 'accounts',
    columns: 'key, name, domains, owner, part_of',
    says: 'customers, with the domains that are theirs alone',
  },
  {
    kind: 'contacts',
    columns: 'key, name, addresses, account, title, last_active, since',
    says: 'who works at them',
  },
  { kind: 'leads', columns: 'key, name, addresses, company, owner', says: 'who may become a contact' },
  {
    kind: 'opportunities',
    columns: 'key, name, account, stage, state, value, currency, owner, contacts',
    says: 'what may be sold',
  },
]
const done = ref<Schemas['ImportOutcome'][]>([])
const file = ref('')
const changed = useRulesChanged()
const { mutateAsync, error, asyncStatus, reset } = useMutation({
  mutation: (given: { kind: string; text: string }) =>
    answered(
      api.POST('/api/directory/{kind}', {
        params: { path: { kind: given.kind } },
        headers: { 'Content-Type': 'text/csv' },
        body: given.text as never,
        bodySerializer: (text: unknown) => text as string,
      }),
    ),
  onSuccess: changed,
})

async function take(kind: string, files: File | File[] | null) {
  const chosen = Array.isArray(files) ? files[0] : files
  if (!chosen) return
  reset()
  file.value = chosen.name
  await mutateAsync({ kind, text: await chosen.text() }).then(
    (outcome) => done.value.unshift(outcome),
    () => undefined,
  )
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Directory</h1>
      <span class="quiet">imported from CSV files in UTF-8, each whole or not at all</span>
    </header>
    <div class="panes">
      <div class="pane wide">
        <v-table class="plain">
          <thead>
            <tr>
              <th>File</th>
              <th>Columns of its first line</th>
              <td></td>
            </tr>
          </thead>
          <tbody>
            <tr v-for="k in kinds" :key="k.kind">
              <td>
                <b>{{ k.kind }}</b> <span class="quiet">{{ k.says }}</span>
              </td>
              <td class="mono">{{ k.columns }}</td>
              <td>
                <v-file-input
                  :model-value="null"
                  accept=".csv,text/csv"
                  class="file"
                  :label="`Import ${k.kind}`"
                  prepend-icon=""
                  :prepend-inner-icon="mdiUpload"
                  @update:model-value="take(k.kind, $event)"
                />
              </td>
            </tr>
          </tbody>
        </v-table>
        <p class="note quiet">
          In this order they refer to each other by key. A key that is known already is updated; what a file
          does not name stays as it is. Several addresses or domains in one cell stand with spaces between.
        </p>
        <CompanyDomains />
      </div>
      <div class="pane detail" aria-live="polite">
        <h2>Result</h2>
        <StateNote v-if="asyncStatus === 'loading'" loading />
        <StateNote v-else-if="error" :error="error" />
        <p v-if="error" class="quiet px-6">File: {{ file }}</p>
        <p v-if="!done.length && !error" class="quiet mt-2">Nothing has been imported on this page yet.</p>
        <p v-for="(o, i) in done" :key="i" class="mt-2">
          <b>{{ o.kind }}</b>: {{ o.added }} added, {{ o.updated }} updated, {{ o.unchanged }} as they
          were<template v-if="o.reconsidering"
            >; {{ many(o.reconsidering, 'decision') }} being made again</template
          >
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.wide {
  flex: 1;
}
.file {
  width: 235px;
}
b {
  font-weight: 600;
}
</style>
