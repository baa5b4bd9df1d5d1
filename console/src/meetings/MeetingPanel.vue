<script setup lang="ts">
import { computed } from 'vue'
import DecisionTrail from '../kernel/DecisionTrail.vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useActivity, useResults } from '../timeline/queries'
import GuestList from './GuestList.vue'
import MeetingForm from './MeetingForm.vue'
import { useBringBack, useMeeting, useSayResult, useTell } from './queries'

/** One meeting: how it stands, how it came to be where it is, and what can be done about it. */
const props = defineProps<{ id: string }>()
defineEmits<{ close: [] }>()
const { data, error, asyncStatus, refetch } = useMeeting(() => props.id)
const { data: activity } = useActivity(() => props.id)
const meeting = computed(() => data.value?.meeting)
const { mutateAsync: say } = useTell()
const { data: results } = useResults()
const { mutateAsync: sayResult } = useSayResult()
const begun = computed(() => meeting.value !== undefined && Date.parse(meeting.value.begins) <= Date.now())
async function result(name: string | null) {
  const item = props.id
  const before = meeting.value?.result ?? ''
  await sayResult({ item, result: name ?? '' }).then(
    () => tell(name ? `Result: ${name}` : 'No result any more', () => sayResult({ item, result: before })),
    tellRefused,
  )
}
const { mutateAsync: bringBack } = useBringBack()
async function outcome(state: string) {
  const item = props.id
  const before = state ? '' : 'missed'
  await say({ item, state }).then(
    () => tell(state ? 'Marked as missed' : 'Marked as held', () => say({ item, state: before })),
    tellRefused,
  )
}
const others = computed(() => {
  const guests = new Set(data.value?.guests.map((g) => g.address))
  return (activity.value?.activity.people ?? []).filter((p) => !guests.has(p.address))
})
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
        <text-btn v-if="meeting.state === 'held'" @click="outcome('missed')">Mark as missed</text-btn>
        <text-btn v-else-if="meeting.state === 'missed'" @click="outcome('')">Mark as held</text-btn>
      </p>
      <div v-if="results?.results.length && begun" class="results" role="group" aria-label="Result">
        <v-btn
          v-for="r in results.results"
          :key="r.name"
          size="small"
          :variant="r.name === meeting.result ? 'flat' : 'outlined'"
          :color="r.name === meeting.result ? 'primary' : undefined"
          :aria-pressed="r.name === meeting.result"
          @click="result(r.name === meeting.result ? null : r.name)"
          >{{ r.name }}</v-btn
        >
        <span v-if="meeting.result && !data.results[0]?.name" class="quiet">by its title</span>
      </div>
      <p v-if="data.results.length > 1 || (data.results[0] && !data.results[0].name)" class="quiet">
        <template v-for="(s, i) in data.results" :key="i"
          >{{ i ? ', before that ' : '' }}{{ s.name || 'none' }}, says {{ s.by }}</template
        >.
      </p>
      <p v-else-if="data.results[0]" class="quiet">says {{ data.results[0].by }}</p>
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
      <GuestList v-if="data.guests.length" :guests="data.guests" />
      <pre v-if="activity?.text" class="text" tabindex="0">{{ activity.text }}</pre>
      <template v-if="data.stand">
        <h2>In the calendar</h2>
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
            <WhenAt :at="c.at" />: {{ c.field === 'deleted' ? 'deleted against changed' : c.field }};
            {{ c.stands === 'here' ? 'what was entered here' : 'the calendar’s value' }} was kept.
          </p>
          <p><span class="quiet">here</span> {{ c.here }}</p>
          <p><span class="quiet">calendar</span> {{ c.calendar }}</p>
          <v-btn v-if="c.canComeBack" size="small" variant="tonal" @click="bringBack(c.id)"
            >Use the other value</v-btn
          >
          <p v-else-if="c.broughtBackBy" class="quiet">{{ c.broughtBackBy }} chose the other value.</p>
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
      <h2>Change</h2>
      <p v-if="!data.mayChange" class="quiet">{{ data.whyNot }}</p>
      <MeetingForm v-else :detail="data" @gone="$emit('close')" @reload="refetch()" />
      <h2>Why it is here</h2>
      <DecisionTrail v-for="d in activity?.decisions ?? []" :key="d.id" :decision="d" />
    </template>
  </article>
</template>

<style scoped>
.results {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 4px 0;
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
</style>
