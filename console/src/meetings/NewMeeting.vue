<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { useMe } from '../kernel/useMe'
import { useRecords } from '../timeline/queries'
import { forInput, wallTime } from './days'
import { useMake, usePeople } from './queries'

/** Something to be made, with what is known filled in. */
const props = defineProps<{
  at: Date
  minutes?: number
  record?: { id: string; name: string } | null
  person?: string
}>()
const emit = defineEmits<{ close: []; made: [item: string, says: string] }>()
const { me, isAdministrator } = useMe()
const { data: people } = usePeople()
const open = ref(true)
const sort = ref('meeting')
const title = ref('')
const begins = ref(
  forInput(wallTime(props.at, Math.ceil((props.at.getHours() * 60 + props.at.getMinutes()) / 30) * 30)),
)
const minutes = ref(props.minutes ?? 30)
const name = ref(props.record?.name ?? '')
const record = ref(props.record ?? null)
const guests = ref('')
const place = ref('')
const text = ref('')
const reminder = ref(-1)
const isPrivate = ref(false)
const ask = ref('')
const person = ref(props.person ?? '')
watch(
  me,
  (now) => {
    person.value ||= now?.person ?? ''
  },
  { immediate: true },
)
const settled = refDebounced(name, 150)
const { data: found } = useRecords(settled, ref(''))
const offered = computed(() =>
  record.value?.name === name.value || !name.value.trim() ? [] : (found.value?.records ?? []).slice(0, 6),
)
const { mutateAsync, error, asyncStatus } = useMake()

function soon(mins: number, what: string) {
  sort.value = what
  begins.value = forInput(new Date(Math.ceil((Date.now() + mins * 60_000) / 300_000) * 300_000))
  minutes.value = 15
  // where the record is known, nothing is left to ask
  if (record.value && (person.value || !me.value || me.value.person)) void make()
}
async function make() {
  const from = new Date(begins.value)
  const done = await mutateAsync({
    sort: sort.value,
    title:
      title.value.trim() || (sort.value === 'follow-up' ? 'Follow up' : sort.value === 'call' ? 'Call' : ''),
    begins: from.toISOString(),
    ends: new Date(from.getTime() + minutes.value * 60_000).toISOString(),
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    records: record.value ? [record.value.id] : [],
    guests: guests.value.split(/[\s,;]+/).filter(Boolean),
    place: place.value,
    text: text.value,
    reminder: reminder.value,
    isPrivate: isPrivate.value,
    ...(ask.value && { ask: ask.value === 'yes' }),
    ...(person.value && { person: person.value }),
  }).catch(() => null)
  if (done) {
    emit('made', done.item, done.says)
    open.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" max-width="620" aria-labelledby="new-title" @after-leave="$emit('close')">
    <v-card class="pa-5">
      <form @submit.prevent="make">
        <h2 id="new-title">New meeting, call or follow-up</h2>
        <p class="quick">
          <v-btn size="small" variant="tonal" @click="soon(60, 'follow-up')">Follow up in an hour</v-btn>
          <v-btn size="small" variant="tonal" @click="soon(24 * 60, 'follow-up')">tomorrow</v-btn>
          <v-btn size="small" variant="tonal" @click="soon(60, 'call')">Call in an hour</v-btn>
        </p>
        <div class="two">
          <label class="field"
            >what<select v-model="sort" aria-label="What">
              <option value="meeting">a meeting</option>
              <option value="call">a call</option>
              <option value="follow-up">a follow-up</option>
            </select></label
          >
          <label class="field grow"
            >title<input v-model="title" autofocus maxlength="400" :required="sort === 'meeting'"
          /></label>
        </div>
        <div class="two">
          <label class="field grow"
            >for the record<input
              v-model="name"
              type="search"
              placeholder="part of a name"
              required
              aria-autocomplete="list"
          /></label>
          <label v-if="isAdministrator || !me?.person" class="field"
            >of<select v-model="person" aria-label="Whose" required>
              <option v-for="p in people ?? []" :key="p.id" :value="p.id">{{ p.name }}</option>
            </select></label
          >
        </div>
        <ul v-if="offered.length" class="offered">
          <li v-for="r in offered" :key="r.id">
            <button type="button" class="linkish" @click="((record = r), (name = r.name))">
              {{ r.name }} <span class="quiet">{{ r.kind }} {{ r.accountName }}</span>
            </button>
          </li>
        </ul>
        <div class="two">
          <label class="field">begins<input v-model="begins" type="datetime-local" required /></label>
          <label class="field"
            >lasts<select v-model.number="minutes" aria-label="Lasts">
              <option v-for="m in [15, 30, 45, 60, 90, 120, 240, 480]" :key="m" :value="m">
                {{ m }} min
              </option>
            </select></label
          >
          <label class="field"
            >reminder<select v-model.number="reminder" aria-label="Reminder">
              <option :value="-1">none</option>
              <option v-for="m in [0, 5, 15, 30, 60, 1440]" :key="m" :value="m">{{ m }} min before</option>
            </select></label
          >
        </div>
        <div class="two">
          <label class="field grow"
            >guests, by address<input v-model="guests" placeholder="bram@customer.example, …"
          /></label>
          <label class="field"
            >invitations<select v-model="ask" aria-label="Asking the guests" :disabled="!guests.trim()">
              <option value="">as the policy says</option>
              <option value="yes">send</option>
              <option value="no">do not send</option>
            </select></label
          >
        </div>
        <label class="field">place<input v-model="place" maxlength="400" /></label>
        <label class="field">about<textarea v-model="text" rows="2"></textarea></label>
        <p>
          <label
            ><input v-model="isPrivate" type="checkbox" /> private: others see only that it is busy</label
          >
        </p>
        <StateNote v-if="error" :error="error" @again="make" />
        <div class="d-flex ga-3 mt-3">
          <v-btn
            type="submit"
            color="primary"
            :disabled="!record || record.name !== name"
            :loading="asyncStatus === 'loading'"
            >Create</v-btn
          >
          <v-btn variant="text" @click="open = false">Cancel</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 9px;
}
.quick {
  display: flex;
  gap: 8px;
}
.offered {
  list-style: none;
  padding: 0 0 0 4px;
}
textarea {
  border: 1px solid var(--line);
  padding: 3px 6px;
}
</style>
