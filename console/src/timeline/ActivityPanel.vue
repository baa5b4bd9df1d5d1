<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import DecisionTrail from '../kernel/DecisionTrail.vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useMe } from '../kernel/useMe'
import MailText from './MailText.vue'
import MeetingOpened from './MeetingOpened.vue'
import MakeRecord from './MakeRecord.vue'
import PinTo from './PinTo.vue'
import ReadersChoice from './ReadersChoice.vue'
import { useActivity } from './queries'

const props = defineProps<{ id: string }>()
defineEmits<{ close: []; open: [id: string] }>()
const { data, error, asyncStatus, refetch } = useActivity(() => props.id)
const activity = computed(() => data.value?.activity)
const { isAdministrator } = useMe()
const making = ref(false)
watch(
  () => props.id,
  () => (making.value = false),
)
/** Participants whose own sources did not show it; those without a contact first. */
const outside = computed(() => {
  const ours = new Set(activity.value?.owners.map((o) => o.name))
  const known = new Set(data.value?.links.map((l) => l.name))
  const rank = (p: { name: string }) => (known.has(p.name) ? 1 : 0)
  const people = (activity.value?.people ?? []).filter((p) => p.part !== 'room' && !ours.has(p.name))
  return [...new Map(people.map((p) => [p.address, { name: p.name, address: p.address }])).values()].sort(
    (a, b) => rank(a) - rank(b),
  )
})
function size(bytes: number): string {
  return bytes < 10_000
    ? `${bytes} bytes`
    : bytes < 10_000_000
      ? `${Math.round(bytes / 1024)} KB`
      : `${Math.round(bytes / 1_048_576)} MB`
}
</script>

<template>
  <article aria-label="Activity">
    <StateNote
      v-if="error || !data || !activity"
      :error="error"
      :loading="asyncStatus === 'loading'"
      @again="refetch()"
    />
    <template v-else>
      <div class="title">
        <h1>{{ activity.visibility === 'full' ? activity.subject || '(no subject)' : 'Outline only' }}</h1>
        <v-btn size="small" variant="text" title="Close (Escape)" @click="$emit('close')">Close</v-btn>
      </div>
      <p class="quiet">
        {{ activity.sort || activity.kind }},
        <WhenAt :at="activity.at" :all-day="activity.allDay" :zone="activity.zone" /><template
          v-if="activity.ends && !activity.allDay"
          >–<WhenAt :at="activity.ends" only="clock" /></template
        >, seen by {{ activity.owners.map((o) => o.name).join(', ') }}
      </p>
      <p v-if="activity.visibility !== 'full'">Who and what is for those who read it in full.</p>
      <dl v-if="activity.people.length">
        <template v-for="p in activity.people" :key="p.part + p.address">
          <dt>{{ p.part.replaceAll('_', ' ') }}</dt>
          <dd>
            {{ p.name }} <span class="quiet">{{ p.address }}</span>
          </dd>
        </template>
        <template v-if="activity.place"
          ><dt>place</dt>
          <dd>{{ activity.place }}</dd></template
        >
        <template v-if="activity.online">
          <dt>online</dt>
          <dd>
            <a :href="activity.online" target="_blank" rel="noopener noreferrer">{{ activity.online }}</a>
          </dd>
        </template>
        <template v-if="data.forwarded">
          <dt>passed on</dt>
          <dd>
            from {{ data.forwarded.name }} <span class="quiet">{{ data.forwarded.address }}</span>
          </dd>
        </template>
        <template v-if="data.phones.length">
          <dt>telephone</dt>
          <dd>
            <a v-for="p in data.phones" :key="p" class="phone" :href="`tel:${p}`">{{ p }}</a>
          </dd>
        </template>
        <template v-for="(a, i) in data.attachments" :key="i + a.name">
          <dt>attached</dt>
          <dd>
            <a :href="`/api/activities/${id}/attachments/${i}`" download title="asked of the mailbox now">{{
              a.name
            }}</a>
            <span class="quiet">{{ a.type }}, {{ size(a.bytes) }}</span>
          </dd>
        </template>
      </dl>
      <MailText
        v-if="activity.visibility === 'full'"
        :text="data.text"
        :new-text="data.newText"
        :html="data.html"
        :state="data.bodyState"
      />
      <template v-if="data.conversation.length">
        <h2>The conversation, {{ data.conversation.length }} messages</h2>
        <ol class="links">
          <li v-for="c in data.conversation" :key="c.id" :aria-current="c.id === id">
            <text-btn :disabled="c.id === id" @click="$emit('open', c.id)">
              <WhenAt :at="c.at" /><span class="ml-2">{{
                c.people.find((p) => p.part === 'from')?.name || c.people[0]?.address
              }}</span>
            </text-btn>
          </li>
        </ol>
      </template>
      <template v-if="data.links.length">
        <h2>On the timelines of</h2>
        <ul class="links">
          <li v-for="l in data.links" :key="l.id">
            <router-link :to="`/timeline/${l.id}`">{{ l.name }}</router-link>
            <span class="quiet"> {{ l.kind }}, by {{ l.evidence.replaceAll('_', ' ') }}</span>
          </li>
        </ul>
      </template>
      <PinTo
        v-if="activity.visibility === 'full'"
        :key="id"
        :item="id"
        :pinned="data.links.filter((l) => l.evidence === 'ruling')"
      />
      <p v-if="isAdministrator && activity.visibility === 'full' && outside.length" class="make">
        <text-btn @click="making = true">New record…</text-btn>
      </p>
      <MakeRecord
        v-if="making"
        :item="id"
        :subject="activity.subject"
        :people="outside"
        :author="activity.people.find((p) => p.part === 'from')?.address ?? ''"
        :phones="data.phones"
        :accounts="data.links.filter((l) => l.kind === 'account')"
        @close="making = false"
      />
      <template v-if="data.readers.length || data.mine">
        <h2>Who reads it</h2>
        <p v-for="s in data.readers" :key="s">{{ s }}</p>
        <ReadersChoice v-if="data.mine" :id="id" :ruled="data.readers.length > 0" />
      </template>
      <h2>Why it is here</h2>
      <DecisionTrail v-for="d in data.decisions" :key="d.id" :decision="d" />
      <MeetingOpened v-if="activity.kind === 'meeting' && activity.visibility === 'full'" :item="id" />
    </template>
  </article>
</template>

<style scoped>
.make {
  display: flex;
  gap: 10px;
  padding-top: 6px;
}
.phone {
  margin-right: 10px;
}
[aria-current='true'] {
  font-weight: 600;
}
.links {
  list-style: none;
  padding: 6px 0 0;
}
</style>
