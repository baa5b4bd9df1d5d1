<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { many } from '../kernel/times'
import ImportEffect from './ImportEffect.vue'
import UndoImport from './UndoImport.vue'
import { headingOf } from './columns'
import {
  useImport,
  usePreview,
  useTake,
  useTaken,
  useTakenImports,
  type Import,
  type Preview,
  type TakenImport,
} from './imports'
import { useColumns, type Kind } from './queries'

/** One file: which of its columns are which of ours, what that comes to, and taking it. */
const props = defineProps<{ looked: Import }>()
const emit = defineEmits<{ close: [] }>()
const AGAIN_MILLIS = 700
const kind = computed(() => props.looked.kind as Kind)
const ours = ref(props.looked.columns.map((c) => c.ours))
const preview = ref<Preview | null>(null)
const taking = ref(false)
const { data: now, refetch } = useImport(() => (taking.value ? props.looked.id : ''))
const columns = useColumns(kind)
const { mutateAsync: show, error: showError } = usePreview()
const { mutateAsync: take, error: takeError } = useTake()
const taken = useTaken()
const { data: all } = useTakenImports()
/** It, once it is taken and as long as it stands. */
const file = computed(() => all.value?.find((f) => f.id === props.looked.id && !f.undoneAt))
const undoing = ref<TakenImport | null>(null)
const items = computed(() => [
  { title: 'Leave out', value: '' },
  ...(columns.value ?? []).map((c) => ({
    // a key is made of what there is
    title: headingOf(c) + (c.required && c.name !== 'key' ? ' (needed)' : ''),
    value: c.name,
  })),
])
const names = computed(() => Object.fromEntries((columns.value ?? []).map((c) => [c.name, headingOf(c)])))
const ended = computed(() => now.value?.state === 'done' || now.value?.state === 'failed')

const asked = ref(0)
const shown = ref(0)
const showing = computed(() => shown.value !== asked.value)
let before: Promise<void> = Promise.resolve()
/** One after the other: what was chosen last is what the service keeps, and what is shown. */
function look() {
  const mine = ++asked.value
  before = before.then(async () => {
    if (mine !== asked.value) return
    preview.value = await show({ id: props.looked.id, ours: ours.value }).catch(() => null)
    shown.value = mine
  })
}
look()
watch(ours, look, { deep: true })

let timer: ReturnType<typeof setTimeout> | undefined
function again() {
  timer = setTimeout(async () => {
    await refetch()
    if (!ended.value) again()
  }, AGAIN_MILLIS)
}
// at once: who goes on at once shall not see what was before
watch(ended, (is) => is && taken())
async function go() {
  if (
    await take(props.looked.id).then(
      () => true,
      () => false,
    )
  ) {
    taking.value = true
    again()
  }
}
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <header class="top">
    <h2>{{ looked.name || 'A file' }}</h2>
    <span class="quiet">{{ many(looked.lines, 'line') }} of {{ looked.kind }}</span>
    <v-btn size="small" variant="text" :disabled="taking && !ended" @click="emit('close')"
      >Another file</v-btn
    >
  </header>
  <section v-if="taking" aria-live="polite">
    <template v-if="ended">
      <p :class="{ bad: now!.state === 'failed' }">
        <b>{{ now!.state === 'done' ? 'Taken.' : 'Not taken.' }}</b> {{ now!.says }}
      </p>
      <p v-if="file" class="mt-2">
        <v-btn size="small" variant="text" @click="undoing = file">Undo…</v-btn>
      </p>
      <p v-if="preview?.refused" class="mt-2">
        <a :href="`/api/imports/${looked.id}/refused.csv`" download>Download the lines that were left out</a>
      </p>
    </template>
    <template v-else>
      <p>Taking it…</p>
      <v-progress-linear indeterminate color="primary" class="progress" />
    </template>
    <StateNote v-if="takeError" :error="takeError" />
    <UndoImport v-if="undoing" :file="undoing" @close="undoing = null" />
  </section>
  <template v-else>
    <v-table class="plain">
      <thead>
        <tr>
          <th>Column of the file</th>
          <th>Such as</th>
          <th>Is our</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in looked.columns" :key="i">
          <td>
            <b>{{ c.theirs || `column ${i + 1}` }}</b>
          </td>
          <td class="quiet sample">{{ c.samples.join(' · ') }}</td>
          <td>
            <v-select v-model="ours[i]" :items="items" :aria-label="`What ${c.theirs} is`" class="ours" />
          </td>
        </tr>
      </tbody>
    </v-table>
    <StateNote v-if="showError" :error="showError" />
    <StateNote v-else-if="!preview" loading />
    <ImportEffect v-else :id="looked.id" :preview="preview" :names="names" :older="showing">
      <v-btn
        variant="flat"
        color="primary"
        :disabled="preview.missing.length > 0 || preview.added + preview.changed === 0 || showing"
        @click="go"
        >Take {{ many(preview.added + preview.changed, 'line') }}</v-btn
      >
      <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
    </ImportEffect>
    <StateNote v-if="takeError" :error="takeError" />
  </template>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 12px;
}
.sample {
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.ours {
  width: 190px;
}
.progress {
  max-width: 400px;
  margin-top: 8px;
}
.bad {
  color: rgb(var(--v-theme-error));
}
</style>
