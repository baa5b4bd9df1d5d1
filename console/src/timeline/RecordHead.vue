<script setup lang="ts">
import { mdiDotsHorizontal, mdiPlus } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import SecretAddress from '../kernel/SecretAddress.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { wall } from '../kernel/wall'
import { useFollow, useFollowed, useSubscribe } from '../meetings/instep'
import NewMeeting from '../meetings/NewMeeting.vue'
import { useRecord } from './queries'

/** What a record is, and what can be done for it. */
const props = defineProps<{ id: string }>()
const { data: record, error, asyncStatus } = useRecord(() => props.id)
const { me } = useMe()
const making = ref<Date | null>(null)
const address = ref('')
const { data: followed } = useFollowed()
const follows = computed(() => followed.value?.some((f) => f.id === props.id) ?? false)
const { mutateAsync: follow } = useFollow(() => props.id)
const { mutateAsync: subscribe } = useSubscribe()
watch(
  () => props.id,
  () => (address.value = ''),
)
const route = useRoute()
const router = useRouter()
// one that became a part of another is that one from now on, also for those who have its address
watch(
  [record, asyncStatus],
  ([now, status]) => {
    if (now && status === 'idle' && now.id !== props.id)
      void router.replace({ path: `/timeline/${now.id}`, query: route.query })
  },
  { flush: 'post' },
)
const VIEWS = [
  { value: '', title: 'Timeline' },
  { value: 'facts', title: 'Facts' },
]
const view = computed({
  get: () => (route.query.view === 'facts' ? 'facts' : ''),
  set: (now) => void router.push({ path: route.path, query: now ? { view: now } : {} }),
})
const files = computed(() => [
  { name: 'mail.mbox', title: 'Save mail (mbox)' },
  { name: 'meetings.ics', title: 'Save meetings (iCalendar)' },
  ...(record.value?.kind === 'lead' ? [] : [{ name: 'contacts.vcf', title: 'Save contacts (vCard)' }]),
])
const mayMake = computed(() => me.value?.role !== 'auditor')
function make() {
  if (mayMake.value) making.value = wall(Date.now())
}
async function toggleFollow() {
  const now = !follows.value
  const name = record.value?.name ?? 'The record'
  await follow(now).then(
    () => tell(now ? `You follow ${name}` : `You no longer follow ${name}`, () => follow(!now)),
    tellRefused,
  )
}
async function subscription() {
  await subscribe({ kind: 'record', id: props.id }).then(
    (feed) => (address.value = feed.address ?? ''),
    tellRefused,
  )
}
useShortcuts([{ keys: 'c', does: 'New meeting, call or follow-up', run: make }])
const about = computed(() => {
  const r = record.value
  if (!r) return ''
  return [
    r.kind + (r.detail ? `, ${r.detail}` : ''),
    r.stage && `${r.stage} (${r.state})`,
    r.value && `${r.value.toLocaleString('en-GB')} ${r.currency}`,
    r.owner && `owned by ${r.owner}`,
    r.addresses.join(', '),
    r.archived && 'archived',
  ]
    .filter(Boolean)
    .join(' · ')
})
</script>

<template>
  <div class="head">
    <p v-if="error && !record" role="alert">{{ error.message }}</p>
    <router-link to="/timeline" class="back">All records</router-link>
    <template v-if="record">
      <div class="top">
        <h1 class="clip" :title="record.name">{{ record.name }}</h1>
        <v-btn
          v-if="mayMake"
          size="small"
          color="primary"
          :prepend-icon="mdiPlus"
          title="New meeting, call or follow-up (c)"
          @click="make"
          >New</v-btn
        >
        <ViewTabs v-model="view" :views="VIEWS" label="What to show of the record" />
        <v-btn size="small" variant="tonal" :aria-pressed="follows" @click="toggleFollow">{{
          follows ? 'Unfollow' : 'Follow'
        }}</v-btn>
        <v-menu location="bottom end" role="dialog" aria-label="More about this record">
          <template #activator="{ props: menu }">
            <v-btn
              v-bind="menu"
              size="small"
              variant="text"
              :icon="mdiDotsHorizontal"
              title="More"
              aria-label="More about this record"
            />
          </template>
          <v-list role="menu">
            <v-list-item
              role="menuitem"
              :to="{ path: '/calendar', query: { record: record.id, who: 'all', view: 'agenda' } }"
              title="Show in the calendar"
            />
            <v-list-item role="menuitem" title="Subscribe from a calendar program" @click="subscription" />
            <v-list-item
              role="menuitem"
              :href="`/api/records/${record.id}/timeline.csv`"
              download
              title="Export as CSV"
            />
            <v-list-item
              v-for="f in files"
              :key="f.name"
              role="menuitem"
              :href="`/api/records/${record.id}/${f.name}`"
              download
              :title="f.title"
            />
          </v-list>
        </v-menu>
      </div>
      <p class="quiet">
        {{ about }}
        <template v-if="record.account"
          >· at
          <router-link :to="`/timeline/${record.account}`">{{ record.accountName }}</router-link></template
        >
        <template v-for="p in record.phones" :key="p">
          · <a :href="`tel:${p}`">{{ p }}</a></template
        >
      </p>
      <p class="facts">
        <span>{{ many(record.activities, 'activity', 'activities') }}</span>
        <span
          >last touch <WhenAt v-if="record.lastTouch" :at="record.lastTouch" only="distance" /><template
            v-else
            >never</template
          ></span
        >
        <span
          >next meeting <WhenAt v-if="record.nextMeeting" :at="record.nextMeeting" /><template v-else
            >none</template
          ></span
        >
      </p>
      <template v-if="address">
        <p class="quiet mt-2" role="status">
          Shown only once. Your calendar program reads what you may see of {{ record.name }} from it; revoke
          it under Sync, subscriptions.
        </p>
        <SecretAddress :address="address" />
      </template>
      <NewMeeting
        v-if="making"
        :at="making"
        :record="{ id: record.id, name: record.name }"
        @close="making = null"
      />
    </template>
  </div>
</template>

<style scoped>
.head {
  padding: 12px 20px 8px;
  min-height: 88px;
}
.top {
  display: flex;
  gap: 8px;
  align-items: center;
}
.back {
  display: none;
}
@media (max-width: 760px) {
  .back {
    display: block;
  }
  .top {
    flex-wrap: wrap;
  }
}
h1 {
  flex: 1 1 160px;
  min-width: 0;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin-top: 2px;
}
</style>
