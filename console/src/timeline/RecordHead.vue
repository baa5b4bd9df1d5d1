<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import NewMeeting from '../meetings/NewMeeting.vue'
import SecretAddress from '../kernel/SecretAddress.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { wall } from '../kernel/wall'
import { many } from '../kernel/times'
import { useMe } from '../kernel/useMe'
import { useRecord } from './queries'
import { useFollow, useFollowed, useSubscribe } from '../meetings/instep'

const props = defineProps<{ id: string }>()
const { data: record } = useRecord(() => props.id)
const { me } = useMe()
const making = ref<Date | null>(null)
const said = ref('')
const address = ref('')
const { data: followed } = useFollowed()
const follows = computed(() => followed.value?.some((f) => f.id === props.id) ?? false)
const { mutate: follow } = useFollow(() => props.id)
const { mutateAsync: subscribe } = useSubscribe()
watch(
  () => props.id,
  () => (address.value = said.value = ''),
)
async function subscription() {
  const feed = await subscribe({ kind: 'record', id: props.id }).catch((e: Error) => {
    said.value = e.message
    return null
  })
  address.value = feed?.address ?? ''
}
useShortcuts([
  { keys: 'c', does: 'New meeting, call or follow-up', run: () => (making.value = wall(Date.now())) },
])
function money(value: number, currency: string) {
  return value.toLocaleString('en-GB') + ' ' + currency
}
</script>

<template>
  <div class="head">
    <template v-if="record">
      <h1>{{ record.name }}</h1>
      <p class="quiet">
        {{ record.kind }}<template v-if="record.detail">, {{ record.detail }}</template>
        <template v-if="record.account">
          at <router-link :to="`/timeline/${record.account}`">{{ record.accountName }}</router-link></template
        ><template v-if="record.stage">, {{ record.stage }} ({{ record.state }})</template
        ><template v-if="record.value">, {{ money(record.value, record.currency) }}</template
        ><template v-if="record.owner">, owned by {{ record.owner }}</template>
        <template v-if="record.addresses.length"> · {{ record.addresses.join(', ') }}</template>
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
        <a :href="`/api/records/${record.id}/timeline.csv`" download>Export as CSV</a>
        <router-link :to="{ path: '/calendar', query: { record: record.id, who: 'all', view: 'agenda' } }"
          >In the calendar</router-link
        >
        <text-btn
          v-if="me?.role !== 'auditor'"
          title="A meeting, a call or a follow-up (c)"
          @click="making = wall(Date.now())"
        >
          New
        </text-btn>
        <text-btn
          :aria-pressed="follows"
          title="Keep it in sight: the calendar shows what you follow"
          @click="follow(!follows)"
        >
          {{ follows ? 'Unfollow' : 'Follow' }}
        </text-btn>
        <text-btn title="A secret address for a calendar program" @click="subscription"> Subscribe </text-btn>
        <span v-if="said" role="status">{{ said }}</span>
      </p>
      <p v-if="address" class="quiet" role="status">
        Shown only once. Your calendar program reads what you may see of {{ record.name }} from it; revoke it
        under Sync, subscriptions.
      </p>
      <SecretAddress v-if="address" :address="address" />
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
  padding: 14px 20px 10px;
  min-height: 92px;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin-top: 4px;
}
</style>
