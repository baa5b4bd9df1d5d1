<script setup lang="ts">
import { computed } from 'vue'
import DecisionTrail from '../kernel/DecisionTrail.vue'
import { useEdited } from '../kernel/useEdited'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useActivity } from '../timeline/queries'
import { forInput } from './days'
import { useBringBack, useChange, useDelete, useMeeting, useTell } from './queries'

/** One meeting: how it stands, how it came to be where it is, and what can be done about it. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ close: []; said: [says: string] }>()
const { data, error, asyncStatus, refetch } = useMeeting(() => props.id)
const { data: activity } = useActivity(() => props.id)
const meeting = computed(() => data.value?.meeting)
const { form, seen, changed, saved, overNow } = useEdited(
  () => ({
    title: meeting.value?.title ?? '',
    begins: meeting.value ? forInput(new Date(meeting.value.begins)) : '',
    ask: data.value?.asks ?? false,
  }),
  () => props.id,
)
const { mutateAsync: change, error: changeError } = useChange()
const { mutateAsync: remove, error: removeError } = useDelete()
const { mutateAsync: tell } = useTell()
const { mutateAsync: bringBack } = useBringBack()
const failed = computed(() => changeError.value ?? removeError.value)
async function save() {
  const instant = (local: string) => new Date(local).toISOString()
  const moved = form.begins !== seen.begins
  const named = form.title !== seen.title
  const done = await change({
    item: props.id,
    ...(named && { title: form.title }),
    ...(moved && { begins: instant(form.begins) }),
    ...(form.ask !== seen.ask && { ask: form.ask }),
    seen: { ...(named && { title: seen.title }), ...(moved && { begins: instant(seen.begins) }) },
  }).catch(() => null)
  if (done) {
    saved()
    emit('said', done.says)
  } else {
    // saving again replaces what the answer told of
    await refetch()
    overNow()
  }
}
async function drop() {
  const done = await remove(props.id).catch(() => null)
  if (done) {
    emit('said', done.says)
    emit('close')
  }
}
const others = computed(() => {
  const guests = new Set(data.value?.guests.map((g) => g.address))
  return (activity.value?.activity.people ?? []).filter((p) => !guests.has(p.address))
})
const SAID: Record<string, string> = {
  none: 'no answer yet',
  accepted: 'comes',
  tentative: 'perhaps',
  declined: 'does not come',
  delegated: 'lets somebody else come',
  group: 'several people',
}
const MARKS: Record<string, string> = {
  accepted: '✓',
  declined: '×',
  delegated: '→',
  tentative: '~',
  none: '·',
  group: '∷',
}
const answers = computed(() =>
  Object.entries({
    accepted: ['comes', 'come'],
    tentative: ['perhaps', 'perhaps'],
    declined: ['does not come', 'do not come'],
    none: ['without an answer', 'without an answer'],
  })
    .map(([a, says]) => [data.value?.guests.filter((g) => g.answer === a).length ?? 0, says] as const)
    .filter(([n]) => n)
    .map(([n, [one, several]]) => `${n} ${n === 1 ? one : several}`)
    .join(', '),
)
const WORDS: Record<string, string> = {
  planned: 'Planned',
  held: 'Held',
  missed: 'Missed',
  cancelled: 'Cancelled',
  declined: 'Declined by everybody from outside',
}
</script>

<template>
  <article aria-label="Meeting">
    <StateNote
      v-if="error || !data || !meeting"
      :error="error"
      :loading="asyncStatus === 'loading'"
      @again="refetch()"
    />
    <template v-else>
      <div class="title">
        <h1>{{ meeting.title || '(no title)' }}</h1>
        <v-btn size="small" variant="text" title="Close (Escape)" @click="$emit('close')">Close</v-btn>
      </div>
      <p class="quiet">
        {{ meeting.sort }}, <WhenAt :at="meeting.begins" :all-day="meeting.allDay" /><template
          v-if="!meeting.allDay"
          >–<WhenAt :at="meeting.ends" only="clock" /></template
        >, {{ meeting.owners.map((o) => o.name).join(', ') }}
      </p>
      <p>
        <strong>{{ WORDS[meeting.state] }}</strong><template v-if="data.outcomeBy"
          >, says {{ data.outcomeBy }}</template
        >.
        <template v-if="['held', 'missed'].includes(meeting.state)">
          <button
            v-if="meeting.state === 'held'"
            class="linkish"
            @click="tell({ item: id, state: 'missed' })"
          >
            It was missed
          </button>
          <button v-else class="linkish" @click="tell({ item: id, state: '' })">It was held</button>
        </template>
      </p>
      <dl>
        <template v-if="meeting.place"
          ><dt>place</dt>
          <dd>{{ meeting.place }}</dd></template
        >
        <template v-for="p in others" :key="p.part + p.address">
          <dt>{{ p.part }}</dt>
          <dd>
            {{ p.name }} <span class="quiet">{{ p.address }}</span>
          </dd>
        </template>
        <template v-for="l in activity?.links ?? []" :key="l.id">
          <dt>{{ l.kind }}</dt>
          <dd>
            <router-link :to="`/timeline/${l.id}`">{{ l.name }}</router-link>
          </dd>
        </template>
      </dl>
      <template v-if="data.guests.length">
        <h2>
          Guests <span class="quiet">{{ answers }}</span>
        </h2>
        <ul class="guests">
          <li v-for="g in data.guests" :key="g.address">
            <span class="mark" :class="g.answer">{{ MARKS[g.answer] ?? '' }}</span>
            <span class="who"
              >{{ g.name || g.address }} <span v-if="g.name" class="quiet">{{ g.address }}</span></span
            >
            <span class="quiet">{{ SAID[g.answer] ?? g.answer }}</span>
            <span v-if="g.asked" :class="g.reached ? 'quiet' : 'warn'">{{ g.asked }}</span>
          </li>
        </ul>
      </template>
      <pre v-if="activity?.text" class="text">{{ activity.text }}</pre>
      <template v-if="data.stand">
        <h2>On both sides</h2>
        <p :class="{ warn: data.stand.state === 'trouble' }">
          {{ data.stand.says.charAt(0).toUpperCase() + data.stand.says.slice(1) }}.
          <template v-if="data.stand.reminder >= 0"
            >Reminder {{ data.stand.reminder }} minutes before.</template
          >
        </p>
      </template>
      <template v-if="data.conflicts.length">
        <h2>Changed on both sides at once</h2>
        <div v-for="c in data.conflicts" :key="c.id" class="conflict">
          <p>
            <WhenAt :at="c.at" />: {{ c.field === 'deleted' ? 'deleted against changed' : c.field }},
            {{ c.stands === 'here' ? 'what was entered here' : 'the calendar’s' }} stands.
          </p>
          <p><span class="quiet">here</span> {{ c.here }}</p>
          <p><span class="quiet">calendar</span> {{ c.calendar }}</p>
          <v-btn v-if="c.canComeBack" size="small" variant="tonal" @click="bringBack(c.id)"
            >Bring the other back</v-btn
          >
          <p v-else-if="c.broughtBackBy" class="quiet">{{ c.broughtBackBy }} brought it back.</p>
        </div>
      </template>
      <template v-if="data.moved.length">
        <h2>Moved</h2>
        <ol class="moved">
          <li v-for="m in data.moved" :key="m.at">
            from <WhenAt :at="m.wasBegins" /> to <WhenAt :at="m.begins" />{{ ' '
            }}<span class="quiet">by {{ m.by }}, <WhenAt :at="m.at" only="distance" /></span>
          </li>
        </ol>
      </template>
      <h2>Change it</h2>
      <p v-if="!data.mayChange" class="quiet">{{ data.whyNot }}</p>
      <form v-else class="change" @submit.prevent="save">
        <label class="field">title<input v-model="form.title" maxlength="400" required /></label>
        <label v-if="!meeting.allDay" class="field"
          >begins<input v-model="form.begins" type="datetime-local" required
        /></label>
        <label v-if="data.guests.length"
          ><input v-model="form.ask" type="checkbox" /> guests are asked, and told of changes</label
        >
        <StateNote v-if="failed" :error="failed" @again="save" />
        <div class="d-flex ga-3">
          <v-btn type="submit" size="small" color="primary" :disabled="!changed">Change it</v-btn>
          <v-btn size="small" variant="text" @click="drop">Delete it</v-btn>
        </div>
      </form>
      <h2>Why it is here</h2>
      <DecisionTrail v-for="d in activity?.decisions ?? []" :key="d.id" :decision="d" />
    </template>
  </article>
</template>

<style scoped>
.guests {
  list-style: none;
  padding: 0;
}
.guests li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
.mark {
  width: 1.1em;
  text-align: center;
  font-weight: 700;
  color: var(--accent);
}
.mark.declined,
.mark.delegated {
  color: rgb(var(--v-theme-error));
}
.mark.none,
.mark.group {
  color: var(--quiet);
}
.who {
  flex: 1;
  min-width: 60%;
  overflow-wrap: anywhere;
}
.text {
  font: inherit;
  white-space: pre-wrap;
  max-height: 180px;
  overflow: auto;
}
.warn {
  color: rgb(var(--v-theme-error));
}
.conflict {
  padding: 6px 0 6px 10px;
  border-left: 3px solid var(--accent);
  margin-top: 6px;
}
.moved {
  padding-left: 18px;
}
.change {
  display: grid;
  gap: 8px;
}
</style>
