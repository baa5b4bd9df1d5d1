<script setup lang="ts">
import { ref, watch } from 'vue'
import MoveButtons from '../kernel/MoveButtons.vue'
import SaveButtons from '../kernel/SaveButtons.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { keyFor, KINDS_OF_FIELDS, listOf, rowsOf, type FieldRow } from './ownFields'
import { useChangeFields, useFields } from './queries'

/** The fields of contacts that the company made for itself: what there is, in its order. */
const open = ref(false)
const rows = ref<FieldRow[]>([])
const { data, error: unread } = useFields()
const { mutateAsync: save, error, isLoading, reset } = useChangeFields()

watch([open, data], ([isOpen, fields], [wasOpen]) => {
  // what is being typed is not written over
  if (isOpen && fields && (!wasOpen || !rows.value.length)) rows.value = rowsOf(fields.fields)
  if (isOpen && !wasOpen) reset()
})
function swap(i: number, j: number) {
  const [a, b] = [rows.value[i], rows.value[j]]
  if (a && b) [rows.value[i], rows.value[j]] = [b, a]
}
function add() {
  rows.value.push({ key: '', name: '', kind: 'text', choices: '', contacts: 0, isNew: true, typed: false })
}
function named(row: FieldRow) {
  if (row.isNew && !row.typed) row.key = keyFor(row.name)
}
async function submit() {
  const before = data.value
  const saved = await save({ fields: listOf(rows.value) }).catch(() => null)
  if (!saved) return
  open.value = false
  tell('Saved the fields of contacts', before && (() => save({ fields: before.fields })))
}
</script>

<template>
  <v-btn size="small" variant="text" @click="open = true">Fields…</v-btn>
  <v-dialog v-model="open" max-width="720" aria-labelledby="own-fields-title">
    <v-card class="pa-5">
      <h2 id="own-fields-title">Fields of contacts</h2>
      <p class="quiet">
        What your company wants to know of contacts besides. Files name a field by its key; policies can ask
        for it, too. What is in a field that you remove is kept, and is there again with a field of the same
        key.
      </p>
      <StateNote v-if="unread && !data" :error="unread" />
      <StateNote v-else-if="!data" loading />
      <form v-else class="fields" @submit.prevent="submit">
        <div v-for="(f, i) in rows" :key="i" class="field" role="group" :aria-label="f.name || 'New field'">
          <v-text-field
            v-model="f.name"
            label="Name"
            required
            maxlength="80"
            @update:model-value="named(f)"
          />
          <v-text-field
            v-model="f.key"
            label="Key"
            required
            maxlength="40"
            :readonly="!f.isNew"
            @input="f.typed = true"
          />
          <v-select v-model="f.kind" :items="KINDS_OF_FIELDS" label="Holds" />
          <MoveButtons
            :name="f.name || 'the new field'"
            :at="i"
            :of="rows.length"
            @swap="swap(i, $event)"
            @remove="rows.splice(i, 1)"
          />
          <v-text-field
            v-if="f.kind === 'choice'"
            v-model="f.choices"
            class="choices"
            label="Choices, with commas between"
            placeholder="Gold, Silver"
          />
          <span v-if="f.contacts" class="quiet used">{{ many(f.contacts, 'contact') }} filled in</span>
        </div>
        <p v-if="!rows.length" class="quiet">There are none yet.</p>
        <p><v-btn size="small" variant="tonal" @click="add">Add a field</v-btn></p>
        <StateNote v-if="error" :error="error" />
        <SaveButtons :saving="isLoading" @cancel="open = false" />
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 14px;
  margin-top: 14px;
}
.field {
  display: grid;
  grid-template-columns: 1fr 170px 130px auto;
  gap: 8px;
  align-items: center;
}
.choices {
  grid-column: 1 / 4;
}
.used {
  grid-column: 1 / 4;
  font-size: 0.93em;
}
@media (max-width: 700px) {
  .field {
    grid-template-columns: 1fr 1fr;
  }
  .choices,
  .used {
    grid-column: 1 / -1;
  }
}
</style>
