<script setup lang="ts">
import { mdiUpload } from '@mdi/js'
import { computed, ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import ImportLook from './ImportLook.vue'
import TakenImports from './TakenImports.vue'
import { KINDS } from './columns'
import { useLook, type Import } from './imports'
import { useKinds, type Kind } from './queries'

/** A file from elsewhere: its columns are matched, what it would do is shown, and then it is taken. */
const { data: kinds, error: unknown } = useKinds()
const items = computed(() =>
  (kinds.value ?? []).map((k) => ({
    value: k.kind as Kind,
    title: KINDS.find((known) => known.value === k.kind)?.title ?? k.kind,
    columns: k.columns.map((c) => c.name).join(', '),
  })),
)
const kind = ref<Kind>('accounts')
const looked = ref<Import | null>(null)
const { mutateAsync: look, error, isLoading, reset } = useLook()

async function open(files: File | File[] | null) {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  reset()
  looked.value = await look({ kind: kind.value, file }).catch(() => null)
}
</script>

<template>
  <div class="body">
    <template v-if="!looked">
      <div class="choose">
        <v-select v-model="kind" label="The file holds" :items="items" class="kind" />
        <v-file-input
          :model-value="null"
          accept=".csv,.txt,.tsv,.xlsx"
          class="file"
          label="Choose a CSV or Excel file"
          prepend-icon=""
          :prepend-inner-icon="mdiUpload"
          :loading="isLoading"
          @update:model-value="open"
        />
      </div>
      <StateNote v-if="error ?? unknown" :error="(error ?? unknown)!" />
      <p class="quiet text">
        Nothing is changed before you have seen what would be. Any headings will do: they are matched to ours,
        and you correct what is wrong. People come first, then accounts, contacts, leads and opportunities, as
        each refers to those before it. What a file does not name stays as it is, and what somebody set here
        stays, too.
      </p>
      <TakenImports />
      <v-table class="plain">
        <thead>
          <tr>
            <th>File</th>
            <th>What its columns can be</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="k in items" :key="k.value">
            <td>{{ k.title }}</td>
            <td class="mono">{{ k.columns }}</td>
          </tr>
        </tbody>
      </v-table>
    </template>
    <ImportLook v-else :key="looked.id" :looked="looked" @close="looked = null" />
  </div>
</template>

<style scoped>
.body {
  padding: 16px 20px;
  display: grid;
  /* a wide table scrolls by itself */
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  align-content: start;
}
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
.kind {
  flex: 0 0 190px;
}
.file {
  flex: 0 1 320px;
}
.text {
  max-width: 76ch;
}
</style>
