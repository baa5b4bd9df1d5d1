<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { Refused } from '../api/client'
import ChangedMeanwhile from '../kernel/ChangedMeanwhile.vue'
import DateField from '../kernel/DateField.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useEdited } from '../kernel/useEdited'
import PersonField from '../people/PersonField.vue'
import RecordField from '../timeline/RecordField.vue'
import { headingOf } from './columns'
import { useEditRows, withEffects, type Kind, type Row } from './queries'

/** A record's facts, edited in place. What is saved here, no file changes; each field says whose value it is. */
const props = defineProps<{ kind: Kind; row: Row; columns: Schemas['TableColumn'][]; mayChange: boolean }>()
const fields = computed(() =>
  props.columns.filter((c) => !['key', 'since'].includes(c.name) && c.type !== 'contacts'),
)
const { form, seen, changed, news, saved, overNow } = useEdited<Record<string, string>>(
  () => Object.fromEntries(fields.value.map((c) => [c.name, props.row.values[c.name] ?? ''])),
  () => props.row.id,
)
const since = ref('')
const { mutateAsync: edit, error, isLoading } = useEditRows()
const names = computed(() => Object.fromEntries(fields.value.map((c) => [c.name, headingOf(c)])))
const moves = computed(() => props.kind === 'contacts' && form.account !== seen.account)
const overtaken = computed(() => error.value instanceof Refused && error.value.status === 409)
const problems = computed(() => {
  const refused = error.value instanceof Refused ? error.value : null
  return Object.fromEntries((refused?.problems ?? []).map((p) => [p.column, p.reason]))
})
/** A reference that is shown by its name, and saved by its key. */
function chosen(column: string) {
  const key = form[column] ?? ''
  if (!key) return null
  return {
    id: key,
    key,
    name:
      key === props.row.values[column]
        ? (props.row.values[`${column}_name`] ?? key)
        : (picked.value[column] ?? key),
  }
}
const picked = ref<Record<string, string>>({})
function choose(column: string, record: { name: string; key?: string } | null) {
  form[column] = record?.key ?? ''
  if (record) picked.value = { ...picked.value, [column]: record.name }
}
/** What there is to choose from; what a record has stays one of them. */
function choicesOf(column: Schemas['TableColumn']) {
  return [
    { value: '', title: 'Nothing chosen' },
    ...(column.choices ?? []).map((c) => ({ value: c, title: c })),
  ]
}
function fromFile(column: string) {
  return !props.row.byHand.includes(column)
}

async function put(rows: Schemas['RowEdit'][], says: string) {
  const { kind } = props
  return edit({ kind, rows }).then(
    (done) => {
      tell(withEffects(says, done), () => edit({ kind, rows: done.undo }))
      return true
    },
    () => false,
  )
}
async function save() {
  const values = Object.fromEntries(
    fields.value.filter((c) => form[c.name] !== seen[c.name]).map((c) => [c.name, form[c.name] ?? '']),
  )
  if (moves.value && since.value) values.since = since.value
  const { id, version } = props.row
  if (await put([{ id, version, values }], `Saved ${props.row.values.name}`)) {
    saved()
    since.value = ''
  } else if (overtaken.value) overNow()
}
function giveBack(column: Schemas['TableColumn']) {
  const { id, version, byHand } = props.row
  void put(
    [{ id, version, values: {}, byHand: byHand.filter((c) => c !== column.name) }],
    `${headingOf(column)} comes from files again, with the next one`,
  )
}
function archive() {
  const { id, version, archived, values } = props.row
  void put(
    [{ id, version, values: {}, archived: !archived }],
    `${archived ? 'Brought back' : 'Archived'} ${values.name}`,
  )
}
</script>

<template>
  <form class="facts" @submit.prevent="save">
    <div v-for="c in fields" :key="c.name" class="fact">
      <PersonField
        v-if="c.type === 'person'"
        v-model="form[c.name]!"
        by="key"
        nobody="Nobody"
        :label="headingOf(c)"
        :readonly="!mayChange"
      />
      <RecordField
        v-else-if="c.type === 'account'"
        :model-value="chosen(c.name)"
        kind="account"
        :label="headingOf(c)"
        :readonly="!mayChange"
        @update:model-value="choose(c.name, $event)"
      />
      <v-select
        v-else-if="c.type === 'period'"
        v-model="form[c.name]"
        :items="[
          { value: 'once', title: 'Once' },
          { value: 'month', title: 'Every month' },
        ]"
        :label="headingOf(c)"
        :readonly="!mayChange"
      />
      <v-select
        v-else-if="c.type === 'state'"
        v-model="form[c.name]"
        :items="['open', 'won', 'lost']"
        :label="headingOf(c)"
        :readonly="!mayChange"
      />
      <v-select
        v-else-if="c.type === 'choice'"
        v-model="form[c.name]"
        :items="choicesOf(c)"
        :label="headingOf(c)"
        :error-messages="problems[c.name]"
        :readonly="!mayChange"
      />
      <DateField
        v-else-if="c.type === 'day'"
        v-model="form[c.name]!"
        :label="headingOf(c)"
        clearable
        :readonly="!mayChange"
      />
      <v-text-field
        v-else
        v-model="form[c.name]"
        :label="headingOf(c)"
        :error-messages="problems[c.name]"
        :inputmode="c.type === 'number' ? 'decimal' : undefined"
        :readonly="!mayChange"
      />
      <span class="quiet whose">
        <template v-if="fromFile(c.name)">{{
          row.values[c.name] ? (row.key.startsWith('made-') ? 'made here' : 'from files') : ''
        }}</template>
        <template v-else>
          set here
          <text-btn
            v-if="mayChange"
            :title="`The next file that names it sets ${headingOf(c)} again`"
            @click="giveBack(c)"
            >let files set it</text-btn
          >
        </template>
      </span>
      <DateField
        v-if="moves && c.name === 'account'"
        v-model="since"
        label="From this day on (empty: always)"
        clearable
        class="since"
      />
    </div>
    <ChangedMeanwhile :news="news" :names="names" />
    <p v-if="overtaken" class="news" role="alert">
      Somebody else changed {{ row.values.name }} in the meantime. Nothing was saved; what they changed is in
      the fields that you did not touch, or beside them. Save again to put yours in place of it.
    </p>
    <StateNote v-else-if="error" :error="error" />
    <p v-if="mayChange" class="acts">
      <v-btn type="submit" variant="flat" color="primary" :disabled="!changed" :loading="isLoading"
        >Save</v-btn
      >
      <v-btn v-if="kind !== 'people'" variant="tonal" :disabled="isLoading" @click="archive">{{
        row.archived ? 'Bring back' : 'Archive'
      }}</v-btn>
      <slot />
    </p>
    <p class="quiet">
      Key <code>{{ row.key }}</code>: by it, files name this record.
    </p>
  </form>
</template>

<style scoped>
.facts {
  display: grid;
  gap: 12px;
  max-width: 560px;
}
.fact {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 170px;
  gap: 4px 12px;
  align-items: center;
}
.whose {
  font-size: 0.93em;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.news {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
}
@media (max-width: 700px) {
  .fact {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
