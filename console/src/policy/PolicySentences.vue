<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { computed } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { many } from '../kernel/times'
import { useCoverage } from './coverageQueries'

/** A policy as sentences; the underlined parts are edited in place, on a copy that its page holds. */
const rules = defineModel<Schemas['PolicyRules']>({ required: true })
defineProps<{ disabled: boolean; policy?: string }>()
const { data: people } = useCoverage()
const teams = computed(() => [...new Set(people.value?.map((p) => p.team).filter(Boolean))].sort())
const roles = computed(() => [...new Set(people.value?.map((p) => p.role).filter(Boolean))].sort())

const who = computed({
  get: () => {
    const a = rules.value.audience
    if (a.everyone) return 'everyone'
    if (a.teams.length === 1 && !a.roles.length && !a.people.length) return `team ${a.teams[0]}`
    if (a.roles.length === 1 && !a.teams.length && !a.people.length) return `role ${a.roles[0]}`
    return a.teams.length + a.roles.length + a.people.length ? 'several' : 'nobody'
  },
  set: (words: string) => {
    if (words === 'several') return
    const [kind, ...name] = words.split(' ')
    rules.value.audience = {
      everyone: words === 'everyone',
      people: [],
      teams: kind === 'team' ? [name.join(' ')] : [],
      roles: kind === 'role' ? [name.join(' ')] : [],
    }
  },
})
const several = computed(() => {
  const a = rules.value.audience
  return [...a.teams.map((t) => `team ${t}`), ...a.roles.map((r) => `role ${r}`), ...a.people].join(', ')
})

const KINDS = ['contact', 'lead', 'account', 'opportunity']

const goesOut = computed(() => ['out', 'both'].includes(rules.value.meetings))
const SAFE = {
  title: '{title}',
  calendarRings: true,
  wins: 'later',
  deletionWins: false,
  deletedHere: 'remove',
  asks: false,
  missed: [],
}
const keeping = computed(() => rules.value.keeping ?? SAFE)
function words(text: string): string[] {
  return text
    .split(',')
    .map((w) => w.trim())
    .filter(Boolean)
}
const missed = computed({
  get: () => (keeping.value.missed ?? []).join(', '),
  set: (text: string) => {
    rules.value.keeping ??= { ...SAFE }
    rules.value.keeping.missed = words(text)
  },
})
const LOOKED_AT = { include: ['inbox', 'sent', 'archive'], exclude: [] }
const include = computed({
  get: () => (rules.value.folders ?? LOOKED_AT).include.join(', '),
  set: (text: string) => {
    rules.value.folders = { ...(rules.value.folders ?? LOOKED_AT), include: words(text) }
  },
})
const exclude = computed({
  get: () => (rules.value.folders ?? LOOKED_AT).exclude.join(', '),
  set: (text: string) => {
    rules.value.folders = { ...(rules.value.folders ?? LOOKED_AT), exclude: words(text) }
  },
})
const NOBODY: Schemas['CreationRules'] = { makes: 'nothing', conditions: [] }
const creation = computed(() => rules.value.creation ?? NOBODY)
/** Those that are yes or no count as 1 or 0. */
const FIELDS = {
  'two-way': 'letters both ways (1 or 0)',
  'at-account': 'an account has their domain (1 or 0)',
  'free-mail': 'a free-mail address (1 or 0)',
  meetings: 'meetings',
  received: 'messages from them',
  sent: 'messages to them',
  items: 'items in all',
  people: 'of our people',
  bulk: 'bulk score (0 to 100)',
}
const {
  mutate: ask,
  data: would,
  error: notAsked,
} = useMutation({
  mutation: (id: string) =>
    answered(api.POST('/api/policies/{id}/would-make', { params: { path: { id } }, body: creation.value })),
})
const preview = computed(() =>
  keeping.value.title
    .replace('{title}', 'Signing of the contract')
    .replace('{account}', 'Port of Skarvik')
    .replace('{with}', 'Bram Holm'),
)

function toggleOut(kind: string) {
  const all = new Set(rules.value.outward)
  if (all.has(kind)) all.delete(kind)
  else all.add(kind)
  rules.value.outward = ['meeting', 'call', 'follow-up'].filter((k) => all.has(k))
}

function toggle(kind: string) {
  const all = new Set(rules.value.matched)
  if (all.has(kind)) all.delete(kind)
  else all.add(kind)
  rules.value.matched = KINDS.filter((k) => all.has(k))
}
</script>

<template>
  <fieldset :disabled="disabled">
    <p>
      The policy <input v-model="rules.name" class="name" aria-label="Name" maxlength="100" /> covers
      <select v-model="who" aria-label="Whom it covers">
        <option value="everyone">everyone</option>
        <option v-for="t in teams" :key="t" :value="`team ${t}`">the team {{ t }}</option>
        <option v-for="r in roles" :key="r" :value="`role ${r}`">everybody in the role {{ r }}</option>
        <option value="nobody">nobody yet</option>
        <option v-if="who === 'several'" value="several">{{ several }}</option></select
      >.
    </p>
    <p>
      Mail that comes in
      <select v-model="rules.received" aria-label="Mail that comes in">
        <option :value="true">is captured</option>
        <option :value="false">is not captured</option>
      </select>
      and mail that they write
      <select v-model="rules.sent" aria-label="Mail that they write">
        <option :value="true">is captured</option>
        <option :value="false">is not captured</option></select
      >. Where a mailbox’s owner has not chosen, its folders
      <input
        v-model.lazy="include"
        class="pattern"
        aria-label="Folders"
        placeholder="inbox, sent, archive"
        maxlength="500"
        title="Roles (inbox, sent, archive) and names, with * for any characters"
      />
      are looked at, but not
      <input
        v-model.lazy="exclude"
        class="pattern"
        aria-label="Folders left alone"
        placeholder="drafts, junk and trash"
        maxlength="500"
        title="Names, with * for any characters; drafts, junk and trash never are"
      />.
    </p>
    <p>
      Meetings
      <select v-model="rules.meetings" aria-label="Meetings">
        <option value="in">come in from their calendars</option>
        <option value="none">are not captured</option>
        <option value="out">go out to their calendars</option>
        <option value="both">flow both ways</option></select
      >, up to
      <input v-model.number="rules.aheadDays" type="number" min="0" max="36525" aria-label="Days ahead" />
      days ahead. Recurring ones
      <select v-model="rules.series" aria-label="Recurring meetings">
        <option value="each-occurrence">count, each occurrence by itself</option>
        <option value="leave-out">are left out</option></select
      >.
    </p>
    <p v-if="goesOut">
      Of what is made here,
      <template v-for="(k, i) in ['meeting', 'call', 'follow-up']" :key="k"
        >{{ i ? ', ' : ''
        }}<label
          ><input type="checkbox" :checked="rules.outward.includes(k)" @change="toggleOut(k)" />
          {{ k }}s</label
        ></template
      >
      go out, called
      <input v-model="keeping.title" class="pattern" aria-label="Title there" maxlength="200" /> there
      <span class="quiet">(such as “{{ preview }}”)</span>. The reminder
      <select v-model="keeping.calendarRings" aria-label="Reminder">
        <option :value="true">rings in the calendar</option>
        <option :value="false">does not go there</option></select
      >. Where both sides changed the same,
      <select v-model="keeping.wins" aria-label="Conflicts">
        <option value="later">the later change stands</option>
        <option value="here">what was entered here stands</option>
        <option value="calendar">the calendar’s stands</option></select
      >; where one side deleted what the other changed,
      <select v-model="keeping.deletionWins" aria-label="Deleted against changed">
        <option :value="false">the change lives</option>
        <option :value="true">the deletion stands</option></select
      >. What is deleted here
      <select v-model="keeping.deletedHere" aria-label="Deleted here">
        <option value="remove">leaves the calendar</option>
        <option value="cancel">is marked as cancelled there</option>
        <option value="keep">stays there</option></select
      >. Guests
      <select v-model="keeping.asks" aria-label="Guests">
        <option :value="false">are asked where the maker wants that</option>
        <option :value="true">are asked, unless the maker says otherwise</option></select
      >.
    </p>
    <p>
      A meeting that has ended was held, unless somebody says otherwise, or its title or a category says
      <input
        v-model.lazy="missed"
        class="pattern"
        aria-label="Words that say missed"
        placeholder="nothing of the kind"
        maxlength="300"
      />
      <span class="quiet">(such as “no-show”)</span>: then it was missed.
    </p>
    <p>
      Capture begins
      <input v-model.number="rules.backDays" type="number" min="0" max="36525" aria-label="Days back" /> days
      before the day on which somebody connects.
    </p>
    <p>
      What is marked private
      <select v-model="rules.privateItems" aria-label="Private items">
        <option value="outline">is logged for its owner alone</option>
        <option value="leave-out">is left out</option></select
      >. A cancelled meeting
      <select v-model="rules.cancelled" aria-label="Cancelled meetings">
        <option value="remove">leaves the timeline</option>
        <option value="mark">stays, marked as cancelled</option>
        <option value="keep">stays</option></select
      >, and one deleted from its calendar
      <select v-model="rules.deleted" aria-label="Deleted meetings">
        <option value="remove">leaves it too</option>
        <option value="mark">stays, marked as deleted</option>
        <option value="keep">stays</option></select
      >. Mail that its owner deletes or files away
      <select v-model="rules.deletedMail" aria-label="Mail deleted or filed away">
        <option value="keep">stays</option>
        <option value="mark">stays, marked as deleted</option>
        <option value="remove">leaves the timeline</option></select
      >. Logged messages get the keyword
      <input
        v-model="rules.loggedKeyword"
        class="keyword"
        aria-label="Keyword of logged messages"
        placeholder="none"
        maxlength="60"
      />
      in their mailbox.
    </p>
    <p>
      People on it are matched to
      <template v-for="(k, i) in KINDS" :key="k"
        >{{ i ? ', ' : ''
        }}<label
          ><input type="checkbox" :checked="rules.matched.includes(k)" @change="toggle(k)" />
          {{ k === 'opportunity' ? 'opportunities' : k + 's' }}</label
        ></template
      >. Where contacts share an address,
      <select v-model="rules.tieBreak" aria-label="Shared addresses">
        <option value="owner-then-recent">the one of an account owner on it counts</option>
        <option value="most-recent">the most recently active counts</option>
        <option value="oldest">the one that came here first counts</option>
        <option value="first">the first by key counts</option>
        <option value="all">all of them count</option></select
      >. The author of a manually forwarded message
      <select v-model="rules.forwarded" aria-label="Forwarded messages">
        <option :value="false">is shown, but does not count</option>
        <option :value="true">counts as if on it</option></select
      >.
    </p>
    <p>
      Strangers
      <select v-model="creation.makes" aria-label="Unmatched people">
        <option value="nothing">become contacts or leads by a person’s choice alone</option>
        <option value="contacts">become contacts by themselves</option>
        <option value="leads">become leads by themselves</option></select
      ><template v-if="creation.makes === 'nothing'">.</template>
      <template v-else>
        when
        <span v-for="(c, i) in creation.conditions" :key="i" class="condition"
          >{{ i ? ' and ' : '' }}
          <select v-model="c.field" aria-label="Field">
            <option v-for="(label, f) in FIELDS" :key="f" :value="f">{{ label }}</option>
          </select>
          <select v-model="c.comparison" aria-label="Comparison">
            <option value="at-least">at least</option>
            <option value="at-most">at most</option>
            <option value="is">exactly</option>
          </select>
          <input v-model.number="c.value" type="number" min="0" aria-label="Value" />
          <button
            type="button"
            class="linkish"
            title="Without this condition"
            @click="creation.conditions.splice(i, 1)"
          >
            ×
          </button></span
        >
        <button
          type="button"
          class="linkish"
          @click="creation.conditions.push({ field: 'two-way', comparison: 'is', value: 1 })"
        >
          {{ creation.conditions.length ? 'and…' : 'a condition…' }}
        </button>
        <button
          v-if="policy && creation.conditions.length"
          type="button"
          class="linkish"
          @click="ask(policy)"
        >
          Whom would that be now?
        </button>
        <span v-if="would" class="quiet would" role="status"
          >{{ many(would.total, 'person', 'people') }}{{ would.total ? ': ' : ''
          }}{{ would.strangers.slice(0, 12).join('; ') }}{{ would.total > 12 ? ' …' : '' }}</span
        >
        <span v-if="notAsked" class="quiet" role="alert">{{ notAsked.message }}</span>
      </template>
    </p>
    <p>
      What is logged is read in full by
      <select v-model="rules.sharing" aria-label="Who reads it">
        <option value="everyone">everyone who signs in</option>
        <option value="team">the owner’s team and those on it</option>
        <option value="those-on-it">those on it</option>
        <option value="owner">the owner alone</option></select
      >{{ rules.sharing === 'everyone' ? '.' : '; all others see only when it is and whose.' }}
    </p>
    <p>
      Each source is visited
      <template v-if="rules.times.length">at {{ rules.times.join(', ') }} (UTC)</template>
      <select v-else v-model.number="rules.everyMinutes" aria-label="How often">
        <option :value="0">at the service’s own pace</option>
        <option v-for="m in [1, 5, 15, 30, 60, 240, 1440]" :key="m" :value="m">
          every {{ m === 1 ? 'minute' : m < 60 ? `${m} minutes` : m === 60 ? 'hour' : `${m / 60} hours` }}
        </option></select
      >.
    </p>
    <p class="quiet">
      Contacts are not kept in step: that is not active yet. Mail written by programs or sent in bulk, and
      what is among ourselves, is always left out.
    </p>
  </fieldset>
</template>

<style scoped>
.condition {
  white-space: nowrap;
}
.condition + .linkish,
.linkish + .linkish {
  margin-left: 10px;
}
.would {
  display: block;
}
label {
  white-space: nowrap;
}
fieldset {
  border: 0;
  padding: 0;
}
p {
  max-width: 72ch;
  margin-bottom: 11px;
  font-size: 15px;
  line-height: 1.75;
}
select,
input {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 2px solid var(--accent);
  padding: 0 2px;
  max-width: 100%;
}
select option {
  background: var(--surface);
}
input[type='number'] {
  width: 7ch;
  text-align: right;
}
input.keyword {
  width: 10ch;
}
input.pattern {
  width: 22ch;
}
input.name {
  width: 16ch;
  font-weight: 600;
}
:disabled select,
:disabled input {
  border-bottom-color: var(--line);
  opacity: 1;
}
</style>
