<script setup lang="ts">
import { reactive, watch } from 'vue'
import MoveButtons from '../kernel/MoveButtons.vue'
import SaveButtons from '../kernel/SaveButtons.vue'
import StateNote from '../kernel/StateNote.vue'
import { useStages } from '../directory/queries'
import { useResults } from '../timeline/queries'
import { words } from '../policy/rules'
import { useChangeResults, useChangeStages } from './queries'

/** The company's own stages and channels, in its order. */
const open = defineModel<boolean>({ required: true })
const { data } = useStages()
const { data: results } = useResults()
const save = useChangeStages()
const saveResults = useChangeResults()
const MEANS = [
  { value: 'open', title: 'Open' },
  { value: 'agreed', title: 'Agreed: they said yes' },
  { value: 'won', title: 'Won' },
  { value: 'lost', title: 'Lost' },
]
const form = reactive({ stages: [] as { name: string; means: string }[], channels: '', results: '' })
watch([open, data, results], () => {
  // what is being typed is not written over
  if (open.value && !form.stages.length && data.value && results.value) {
    form.stages = data.value.stages.map((s) => ({ ...s }))
    form.channels = data.value.channels.join('\n')
    form.results = results.value.results
      .map((r) => [r.name, r.words.join(', ')].filter(Boolean).join(': '))
      .join('\n')
  }
  if (!open.value) form.stages = []
})
function swap(i: number, j: number) {
  const [a, b] = [form.stages[i], form.stages[j]]
  if (a && b) [form.stages[i], form.stages[j]] = [b, a]
}
function lines(text: string): string[] {
  return text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
}
async function submit() {
  await save.mutateAsync({
    stages: form.stages.filter((s) => s.name.trim()),
    channels: lines(form.channels),
  })
  await saveResults.mutateAsync({
    results: lines(form.results).map((l) => {
      const [name = '', ...said] = l.split(':')
      return { name, words: words(said.join(':')) }
    }),
  })
  open.value = false
}
</script>

<template>
  <v-dialog v-model="open" max-width="620" aria-labelledby="stages-title">
    <v-card class="pa-5">
      <h2 id="stages-title">Stages, channels and results</h2>
      <p class="quiet">
        What opportunities call their stages, in order, and what an open opportunity in each comes to. Stages
        that are not listed count as open.
      </p>
      <form class="stages" @submit.prevent="submit().catch(() => undefined)">
        <div v-for="(s, i) in form.stages" :key="i" class="stage">
          <v-text-field v-model="s.name" :label="`Stage ${i + 1}`" />
          <v-select v-model="s.means" :items="MEANS" label="Means" />
          <MoveButtons
            :name="s.name || 'the new stage'"
            :at="i"
            :of="form.stages.length"
            @swap="swap(i, $event)"
            @remove="form.stages.splice(i, 1)"
          />
        </div>
        <p>
          <v-btn size="small" variant="tonal" @click="form.stages.push({ name: '', means: 'open' })"
            >Add a stage</v-btn
          >
        </p>
        <v-textarea v-model="form.channels" label="Channels, one a line" rows="4" />
        <v-textarea
          v-model="form.results"
          label="Results of meetings, one a line"
          hint="After a colon, words of a title or a category that say it: offer made: offer sent, quote"
          persistent-hint
          rows="4"
        />
        <StateNote v-if="save.error.value" :error="save.error.value" />
        <StateNote v-if="saveResults.error.value" :error="saveResults.error.value" />
        <SaveButtons :saving="save.isLoading.value" @cancel="open = false" />
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.stages {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
.stage {
  display: grid;
  grid-template-columns: 1fr 190px auto;
  gap: 6px;
  align-items: center;
}
</style>
