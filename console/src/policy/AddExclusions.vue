<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Schemas } from '../api/client'
import { useRehearsal } from '../rehearsal/queries'
import RehearsalPanel from '../rehearsal/RehearsalPanel.vue'
import DateField from '../kernel/DateField.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import SuggestedExclusions from './SuggestedExclusions.vue'
import { useAddExclusions, useCheck, useRemoveAdded } from './exclusionQueries'

const props = defineProps<{ mine: boolean }>()
const wanted = reactive({ text: '', reason: '', lastDay: '' })
const { mutateAsync, error, asyncStatus } = useAddExclusions()
const { mutateAsync: remove } = useRemoveAdded()
const check = useCheck()
const body = computed<Schemas['NewExclusions']>(() => ({
  text: wanted.text,
  reason: wanted.reason,
  lastDay: wanted.lastDay || null,
}))
const { now, error: failed, overtaken, rehearse, stop, act } = useRehearsal(() => ({ exclude: body.value }))
const lines = computed(() => (wanted.text.trim() ? check.data.value : undefined))
const bad = computed(() => lines.value?.lines.filter((l) => l.problem) ?? [])

const settled = refDebounced(
  computed(() => wanted.text),
  400,
)
watch(settled, async (text) => {
  await stop()
  if (text.trim() && !props.mine) check.mutate(body.value)
})

async function add() {
  const done = await mutateAsync({ body: body.value, mine: props.mine }).catch(() => null)
  if (!done) return
  Object.assign(wanted, { text: '', reason: '', lastDay: '' })
  const mine = props.mine
  const says =
    `${many(done.added.length, 'exclusion')} added` +
    (done.known.length ? `, ${done.known.length} there already` : '') +
    (done.reconsidering ? `; ${many(done.reconsidering, 'decision')} being made again` : '')
  tell(says, done.added.length ? () => remove({ added: done.added, mine }) : undefined)
}

async function apply() {
  const before = JSON.stringify(body.value)
  if (!(await act('apply'))) return
  // what is written while that goes on is not thrown away
  if (JSON.stringify(body.value) === before) Object.assign(wanted, { text: '', reason: '', lastDay: '' })
}

function take(what: string, reason: string) {
  wanted.text = [wanted.text.trim(), what].filter(Boolean).join('\n')
  wanted.reason ||= reason
}
</script>

<template>
  <aside :aria-label="mine ? 'Exclude for yourself' : 'Add exclusions'">
    <h2>{{ mine ? 'Exclude for yourself' : 'Add' }}</h2>
    <form @submit.prevent="add">
      <v-textarea
        v-model="wanted.text"
        label="Addresses, domains, patterns"
        rows="6"
        spellcheck="false"
        placeholder="agency.example&#10;Jo Plum &lt;jo@print.example&gt;&#10;*@mail.print.example&#10;title: dentist"
        persistent-placeholder
      />
      <p v-if="!lines" class="quiet">Any number, one a line or with commas between</p>
      <p v-if="lines" class="quiet" role="status">
        {{ many(lines.fits, 'line') }} {{ lines.fits === 1 ? 'fits' : 'fit'
        }}<template v-if="lines.known">, {{ lines.known }} excluded already</template
        ><template v-if="bad.length"
          >; <b>{{ bad.length }} {{ bad.length === 1 ? 'does' : 'do' }} not:</b></template
        >
      </p>
      <ul v-if="bad.length" class="problems">
        <li v-for="l in bad.slice(0, 20)" :key="`${l.line}${l.text}`">
          line {{ l.line }}: “{{ l.text }}”: {{ l.problem }}
        </li>
      </ul>
      <div class="two">
        <v-text-field v-model="wanted.reason" label="Reason" maxlength="300" placeholder="supplier" />
        <DateField v-model="wanted.lastDay" label="Last day" clearable />
      </div>
      <div class="d-flex ga-3">
        <v-btn
          type="submit"
          color="primary"
          :disabled="!wanted.text.trim() || bad.length > 0"
          :loading="asyncStatus === 'loading'"
        >
          {{ lines?.fits ? `Exclude ${lines.fits.toLocaleString('en-GB')}` : 'Exclude' }}
        </v-btn>
        <v-btn
          v-if="!mine"
          variant="tonal"
          :disabled="!wanted.text.trim() || bad.length > 0"
          @click="rehearse()"
          >Rehearse</v-btn
        >
      </div>
    </form>
    <StateNote v-if="error" :error="error" @again="add" />
    <RehearsalPanel
      v-if="now || failed"
      :now="now"
      :error="failed"
      :overtaken="overtaken"
      may-apply
      @apply="apply"
      @undo="act('undo')"
      @stop="stop"
      @again="rehearse()"
    />
    <SuggestedExclusions v-if="!mine && !now" @take="take" />
    <p class="quiet mt-3">
      Each line is checked before any is taken. What an exclusion covers leaves all timelines; removing it
      brings it back from the mailboxes and calendars.
    </p>
  </aside>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  margin: 10px 0 14px;
}
</style>
