<!-- its rows are buttons of their own: two lines, four facts, walked by arrows -->
<script setup lang="ts">
import { mdiMenuDown } from '@mdi/js'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import FindField from '../kernel/FindField.vue'
import PersonField from '../people/PersonField.vue'
import { usePeople } from '../people/queries'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { refDebounced } from '../kernel/refDebounced'
import { many } from '../kernel/times'
import { useList } from '../kernel/useList'
import { useRecords } from './queries'

const props = defineProps<{ picked: string; words: string }>()
const emit = defineEmits<{ pick: [id: string]; find: [words: string] }>()
const words = ref(props.words)
watch(
  () => props.words,
  (now) => now !== words.value.trim() && (words.value = now),
)
watch(refDebounced(words, 250), (now) => now.trim() !== props.words && emit('find', now.trim()))
const route = useRoute()
/** From a link of the overview, such as to the accounts last touched in a week. */
const asked = (name: string) => String(route.query[name] ?? '')
const wanted = reactive({
  name: '',
  kind: 'account',
  owner: '',
  sort: 'name',
  touch: asked('touch'),
  next: asked('next'),
})
watch(
  () => [asked('touch'), asked('next')],
  ([touch, next]) => {
    if (touch || next) Object.assign(wanted, { touch, next, name: '', kind: 'account', owner: '' })
  },
)
const settled = refDebounced(
  computed(() => ({ ...wanted })),
  150,
)
const { data, error, asyncStatus, isPlaceholderData, refetch } = useRecords(settled)
const { data: people } = usePeople()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
const KINDS = [
  { title: 'All kinds', value: '' },
  { title: 'Accounts', value: 'account' },
  { title: 'Contacts', value: 'contact' },
  { title: 'Leads', value: 'lead' },
  { title: 'Opportunities', value: 'opportunity' },
]
const SORTS = [
  { title: 'Name', value: 'name' },
  { title: 'Last touch', value: 'touch' },
  { title: 'Next meeting', value: 'next' },
  { title: 'Activity', value: 'activity' },
]
const TOUCHES = [
  { title: 'Any time', value: '' },
  { title: 'In the last day', value: 'day' },
  { title: 'In the last week, not day', value: 'week' },
  { title: 'In the last month, not week', value: 'month' },
  { title: 'In the last quarter, not month', value: 'quarter' },
  { title: 'Longer ago', value: 'longer' },
  { title: 'Never', value: 'never' },
]
const isNarrowed = computed(
  () => !!(wanted.name || wanted.owner || wanted.touch || wanted.next) || wanted.kind !== 'account',
)
const ahead = computed({
  get: () => wanted.next === 'none',
  set: (on) => (wanted.next = on ? 'none' : ''),
})
const ordered = computed(() => {
  const by = SORTS.find((o) => o.value === wanted.sort)?.title.toLowerCase() ?? ''
  const whose = wanted.owner ? people.value?.find((p) => p.id === wanted.owner)?.name.split(' ')[0] : ''
  const narrowed = [
    whose,
    TOUCHES.find((t) => wanted.touch && t.value === wanted.touch)
      ?.title.replace(/,.*/, '')
      .toLowerCase(),
    wanted.next && 'nothing ahead',
  ].filter(Boolean)
  return narrowed.length ? `${narrowed.join(', ')}, by ${by}` : `by ${by}`
})
</script>

<template>
  <aside aria-label="Records">
    <div class="top">
      <FindField
        v-model="words"
        label="All timelines"
        placeholder="words, “phrases”"
        keys="s"
        does="Search all timelines"
      />
      <FindField
        v-model="wanted.name"
        label="Record"
        placeholder="part of a name"
        does="Find a record"
        @keydown.down.prevent="move"
      />
      <v-select v-model="wanted.kind" label="Kind" :items="KINDS" />
      <div class="count">
        <span class="quiet" aria-live="polite">{{
          data
            ? (data.total > data.records.length ? `first ${data.records.length} of ` : '') +
              many(data.total, 'record')
            : '…'
        }}</span>
        <v-menu
          :close-on-content-click="false"
          location="bottom end"
          role="dialog"
          aria-label="Order and filters"
        >
          <template #activator="{ props: menu }">
            <text-btn v-bind="menu" :append-icon="mdiMenuDown">{{ ordered }}</text-btn>
          </template>
          <v-card class="pa-4 fields" width="290">
            <v-select v-model="wanted.sort" label="Sort by" :items="SORTS" />
            <PersonField v-model="wanted.owner" nobody="Anybody" label="Owner" />
            <v-select v-model="wanted.touch" label="Last touch" :items="TOUCHES" />
            <v-checkbox v-model="ahead" label="No meeting ahead" />
          </v-card>
        </v-menu>
      </div>
    </div>
    <StateNote
      v-if="error || !data?.records.length"
      :error="error"
      :loading="asyncStatus === 'loading'"
      :empty="isNarrowed ? 'No record fits' : 'There are no accounts yet'"
      :todo="
        isNarrowed ? 'Shorten the name, or choose all kinds.' : 'An administrator imports them in Directory.'
      "
      @again="refetch()"
    />
    <div
      v-else
      ref="list"
      class="list"
      :class="{ stale: isPlaceholderData }"
      :aria-busy="isPlaceholderData"
      @keydown="move"
    >
      <button
        v-for="(r, i) in data.records"
        :key="r.id"
        data-row
        :tabindex="i === current ? 0 : -1"
        :class="{ picked: r.id === picked }"
        :aria-current="r.id === picked"
        @click="((current = i), $emit('pick', r.id))"
      >
        <span class="clip name">{{ r.name }}</span>
        <span class="quiet clip">
          {{ r.kind === 'account' ? r.owner : r.kind === 'contact' ? r.accountName : r.stage }}
        </span>
        <span class="quiet n" :title="many(r.activities, 'activity', 'activities')">{{ r.activities }}</span>
        <span class="quiet n">
          <template v-if="wanted.sort === 'next'"
            ><WhenAt v-if="r.nextMeeting" :at="r.nextMeeting" only="distance" /><template v-else
              >none planned</template
            ></template
          >
          <WhenAt v-else-if="r.lastTouch" :at="r.lastTouch" only="distance" />
          <template v-else>never</template>
        </span>
      </button>
    </div>
  </aside>
</template>

<style scoped>
.top {
  padding: 12px 12px 6px;
  display: grid;
  gap: 8px;
}
.count {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font-size: 12.5px;
}
.fields {
  display: grid;
  gap: 10px;
}
.list {
  overflow: auto;
  flex: 1;
  border-top: 1px solid var(--line);
}
.list button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 10px;
  width: 100%;
  text-align: left;
  padding: 5px 12px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.list button:hover,
.list .picked {
  background: var(--picked);
}
.list .picked {
  box-shadow: inset 3px 0 0 var(--accent);
}
.name {
  font-weight: 600;
}
.name ~ .quiet {
  font-size: 12px;
}
.name + .quiet {
  grid-row: 2;
}
.n {
  text-align: right;
}
</style>
