<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed, ref } from 'vue'
import { answered, api } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'
import { useStages } from '../directory/queries'
import ConditionList from './ConditionList.vue'
import { words, type EditedRules } from './rules'

/** Which meetings open an opportunity or join one, and what that would have been in the past. */
const rules = defineModel<EditedRules>({ required: true })
defineProps<{ policy?: string }>()
const opening = computed(() => rules.value.opening)
const days = ref(90)
const DOES = [
  { title: 'open no opportunity by themselves', value: 'nothing' },
  { title: 'join the open opportunity', value: 'join' },
  { title: 'open an opportunity, or join the open one', value: 'open' },
]
/** Those that are yes or no count as 1 or 0. */
const FIELDS = [
  { title: 'one of ours invited (1 or 0)', value: 'ours-invited' },
  { title: 'one of ours invited or accepted (1 or 0)', value: 'accepted' },
  { title: 'first meeting with the account (1 or 0)', value: 'first-meeting' },
  { title: 'the account is on record (1 or 0)', value: 'known-account' },
  { title: 'participants from outside', value: 'guests' },
  { title: 'participants of ours', value: 'people' },
  { title: 'minutes', value: 'minutes' },
  { title: 'part of a series (1 or 0)', value: 'recurring' },
]
const OWNERS = [
  { title: 'the one of ours who invited', value: 'organiser' },
  { title: 'the account’s owner', value: 'account-owner' },
  { title: 'the first of ours on the meeting', value: 'first-of-ours' },
]
const ACCOUNTS = [
  { title: 'open nothing', value: false },
  { title: 'bring their account along', value: true },
]
const CONTACTS = [
  { title: 'become contacts', value: true },
  { title: 'stay unmatched', value: false },
]
const LEADS = [
  { title: 'are passed over', value: false },
  { title: 'become leads', value: true },
]
const KINDS = [
  { title: 'meetings', value: 'meeting' },
  { title: 'calls', value: 'call' },
  { title: 'follow-ups', value: 'follow-up' },
]
function list(field: 'words' | 'calendars') {
  return computed({
    get: () => opening.value[field].join(', '),
    set: (text: string) => {
      opening.value[field] = words(text)
    },
  })
}
const title = list('words')
const calendars = list('calendars')
const { data: lists } = useStages()
const stages = computed(() => [
  { title: 'new', value: '' },
  ...(lists.value?.stages ?? []).map((s) => ({ title: s.name, value: s.name })),
])
const channels = computed(() => [
  { title: 'none', value: '' },
  ...(lists.value?.channels ?? []).map((c) => ({ title: c, value: c })),
])
const {
  mutate: look,
  data: would,
  error,
  asyncStatus,
} = useMutation({
  mutation: (id: string) =>
    answered(
      api.POST('/api/policies/{id}/would-open', {
        params: { path: { id } },
        body: { rules: opening.value, days: days.value },
      }),
    ),
})
</script>

<template>
  <p>
    Meetings with somebody from outside
    <word-select v-model="opening.does" aria-label="Meetings open" :items="DOES" /><template
      v-if="opening.does === 'nothing'"
      >.</template
    >
    <template v-else> when <ConditionList v-model="opening.conditions" :fields="FIELDS" /> </template>
  </p>
  <template v-if="opening.does !== 'nothing'">
    <p>
      Their title has
      <word-field
        v-model.lazy="title"
        class="pattern"
        aria-label="Words of the title"
        placeholder="any words"
        maxlength="300"
      />, they stand in
      <word-field
        v-model.lazy="calendars"
        class="pattern"
        aria-label="Calendars"
        placeholder="any calendar"
        maxlength="300"
      />
      and are
      <word-select v-model="opening.kinds" multiple aria-label="Kinds of meeting" :items="KINDS" />. Those
      count that begin from
      <word-field
        v-model.number="opening.backDays"
        class="days"
        type="number"
        min="0"
        max="365"
        aria-label="Days back"
      />
      days ago on. Guests of the account
      <word-select v-model="opening.makesContacts" aria-label="Guests of meetings" :items="CONTACTS" />.
    </p>
    <p v-if="opening.does === 'open'">
      The opportunity is called
      <word-field
        v-model="opening.name"
        class="pattern"
        aria-label="Name of the opportunity"
        title="{account}, {with} and {title} are filled in"
        maxlength="200"
      />, begins in the stage <word-select v-model="opening.stage" aria-label="Stage" :items="stages" />, has
      the channel <word-select v-model="opening.channel" aria-label="Channel" :items="channels" /> and belongs
      to <word-select v-model="opening.owner" aria-label="Owner of the opportunity" :items="OWNERS" />. Guests
      of a domain that no account has
      <word-select v-model="opening.makesAccounts" aria-label="Unknown domains" :items="ACCOUNTS" />; guests
      at public mail providers
      <word-select v-model="opening.makesLeads" aria-label="Public mail providers" :items="LEADS" />. At most
      <word-field
        v-model.number="opening.mostADay"
        class="days"
        type="number"
        min="1"
        aria-label="Most a day"
      />
      a day are made.
    </p>
    <p v-if="policy">
      <text-btn :disabled="asyncStatus === 'loading'" @click="look(policy)"
        >What would that have done in the last</text-btn
      >
      <word-field
        v-model.number="days"
        class="days"
        type="number"
        min="1"
        max="366"
        aria-label="Days to look back"
      />
      days?
      <span v-if="error" class="quiet would" role="alert">{{ error.message }}</span>
    </p>
  </template>
  <div v-if="would && opening.does !== 'nothing'" class="would" role="status">
    <p>
      <b>{{ many(would.opened, 'opportunity', 'opportunities') }}</b> opened,
      <b>{{ many(would.joined, 'meeting', 'meetings') }}</b> joined to open ones<template v-if="would.leads"
        >, leads made of the guests of <b>{{ would.leads }}</b></template
      >; {{ many(would.nothing, 'meeting', 'meetings') }} would have done nothing.
      <span v-if="would.hidden" class="quiet">Of these, {{ would.hidden }} are hidden from you.</span>
    </p>
    <ul>
      <li v-for="m in would.meetings.slice(0, 12)" :key="m.item ?? ''">
        <WhenAt v-if="m.at" :at="m.at" /> <b>{{ m.did }}</b> {{ m.account }}
        <span class="quiet">{{ m.title }} · {{ m.why }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.would {
  display: block;
  padding: 4px 0 8px;
}
.would ul {
  list-style: none;
  padding: 4px 0 0;
}
</style>
