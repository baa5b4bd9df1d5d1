<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRehearsal } from '../rehearsal/queries'
import RehearsalPanel from '../rehearsal/RehearsalPanel.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { tell } from '../kernel/snackbar'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import PolicyList from './PolicyList.vue'
import PolicyOvertaken from './PolicyOvertaken.vue'
import PolicySentences from './PolicySentences.vue'
import PolicyVersions from './PolicyVersions.vue'
import { editable, onTop, type EditedRules } from './rules'
import { acts, usePolicies, usePolicyAct } from './queries'

const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = usePolicies()
const act = usePolicyAct()
const picked = reactive({ policy: '' })
useInAddress(picked)
const policy = computed(() => data.value?.find((p) => p.id === picked.policy) ?? data.value?.[0])
const draft = ref<EditedRules | null>(null)
const saved = computed(() => (policy.value ? JSON.stringify(editable(policy.value.rules)) : ''))
const differs = computed(() => draft.value !== null && JSON.stringify(draft.value) !== saved.value)

/** What the copy was made of. */
const copied = ref({ id: '', version: 0, rules: '' })

function copy() {
  copied.value = {
    id: policy.value?.id ?? '',
    version: policy.value?.version ?? 0,
    rules: saved.value,
  }
  draft.value = policy.value ? editable(policy.value.rules) : null
}
// the copy is edited: what others save meanwhile does not replace it, and saving it is refused then
watch(
  () => [policy.value?.id, policy.value?.version],
  ([id]) => {
    if (id !== copied.value.id || JSON.stringify(draft.value) === copied.value.rules || !differs.value) copy()
  },
  { immediate: true },
)

const { now, error: failed, overtaken: ofAnother, rehearse, stop, act: actOn } = useRehearsal(change)
const overtaken = computed(
  () => differs.value && policy.value?.id === copied.value.id && policy.value.version > copied.value.version,
)
/** What I changed stays; all else is as others have made it. */
async function keepMine() {
  if (!policy.value || !draft.value) return
  // what is rehearsed began as the older version, and must not be applied any more
  await stop()
  put(copied.value.rules)
  await rehearse()
}

/** What differs from this text is put on top of what is saved now. */
function put(base: string) {
  if (!policy.value || !draft.value) return
  const mine = onTop(JSON.parse(base) as EditedRules, draft.value, editable(policy.value.rules))
  copy()
  draft.value = mine
}

function change() {
  return { policy: policy.value?.id, version: copied.value.version, rules: draft.value ?? undefined }
}
const settled = refDebounced(
  computed(() => (differs.value ? JSON.stringify(draft.value) : '')),
  700,
)
watch(settled, () => {
  if (!isAdministrator.value) return
  if (differs.value) void rehearse()
  else if (now.value?.state !== 'applied') void stop()
})

async function pick(id: string) {
  picked.policy = id
  await stop()
  copy()
}
async function carryOut(what: 'apply' | 'undo') {
  // what is edited while that goes on is not thrown away
  const before = JSON.stringify(draft.value)
  if (!(await actOn(what))) return
  await refetch()
  if (JSON.stringify(draft.value) === before) copy()
  else put(before)
}
/** @param back what takes it back; nothing where nothing does */
function run(says: string, work: () => Promise<unknown>, back?: () => Promise<unknown>) {
  act.mutateAsync(work).then(
    () => tell(says, back && (() => act.mutateAsync(back))),
    () => undefined,
  )
}
function order(ids: string[]) {
  const before = (data.value ?? []).filter((p) => !p.archived).map((p) => p.id)
  run(
    'The order of policies changed',
    () => acts.order(ids),
    () => acts.order(before),
  )
}
function switched(id: string, on: boolean) {
  const name = policy.value?.rules.name ?? 'The policy'
  const work = (yes: boolean) => () => (yes ? acts.on(id) : acts.off(id))
  run(`${name} is ${on ? 'on' : 'off'}`, work(on), work(!on))
}
function archived(id: string, yes: boolean) {
  const name = policy.value?.rules.name ?? 'The policy'
  const work = (into: boolean) => () => (into ? acts.archive(id) : acts.restore(id))
  run(yes ? `${name} is archived` : `${name} is out of the archive`, work(yes), work(!yes))
}
function version(id: string, to: number) {
  const now = policy.value?.version ?? to
  run(
    `Back at version ${to}`,
    () => acts.back(id, to),
    () => acts.back(id, now),
  )
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Policies</h1>
      <span class="quiet"
        >for each person, the first policy in order whose audience includes them applies</span
      >
    </header>
    <div class="panes">
      <StateNote
        v-if="error || !data"
        :error="error"
        :loading="asyncStatus === 'loading'"
        @again="refetch()"
      />
      <template v-else>
        <aside class="pane list" aria-label="All policies">
          <PolicyList
            :policies="data"
            :picked="policy?.id ?? ''"
            :may-change="isAdministrator"
            @pick="pick"
            @order="order"
          />
        </aside>
        <section v-if="policy && draft" class="pane sentences" :aria-label="policy.rules.name">
          <div class="d-flex ga-3 align-center mb-3 flex-wrap">
            <span
              ><b>{{ policy.archived ? 'Archived' : policy.enabled ? 'On' : 'Off' }}</b
              ><span class="quiet">version {{ policy.version }} by {{ policy.changedBy }}</span></span
            >
            <template v-if="isAdministrator">
              <text-btn v-if="!policy.archived" @click="switched(policy.id, !policy.enabled)">{{
                policy.enabled ? 'Switch off' : 'Switch on'
              }}</text-btn>
              <text-btn
                @click="run(`A copy of ${policy.rules.name} was made`, () => acts.duplicate(policy!.id))"
                >Duplicate</text-btn
              >
              <text-btn @click="archived(policy.id, !policy.archived)">{{
                policy.archived ? 'Take out of the archive' : 'Archive'
              }}</text-btn>
            </template>
          </div>
          <StateNote v-if="act.error.value" :error="act.error.value" @again="refetch()" />
          <p v-for="n in policy.notActiveYet" :key="n" class="warn">{{ n }}</p>
          <PolicyOvertaken
            v-if="overtaken"
            :id="policy.id"
            :since="copied.version"
            @keep="keepMine"
            @discard="copy"
          />
          <PolicySentences
            v-model="draft"
            :policy="policy.id"
            :disabled="!isAdministrator || policy.archived"
          />
          <v-btn v-if="differs" variant="text" @click="copy()">Discard changes</v-btn>
          <PolicyVersions
            :id="policy.id"
            :may-change="isAdministrator"
            @back="(v) => version(policy!.id, v)"
          />
        </section>
        <aside class="pane detail rehearsal">
          <RehearsalPanel
            :now="now"
            :error="failed"
            :overtaken="ofAnother"
            :may-apply="isAdministrator"
            @apply="carryOut('apply')"
            @undo="carryOut('undo')"
            @stop="stop"
            @again="rehearse()"
          >
            <p class="quiet mt-2">
              Change an underlined part to see here what that would do to everything known, before anything is
              done. Switching a policy off or archiving it removes nothing from timelines.
            </p>
          </RehearsalPanel>
        </aside>
      </template>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 0 0 230px;
}
.sentences {
  flex: 1 1 auto;
  padding: 16px 20px;
  min-width: min(380px, 100%);
}
.rehearsal {
  flex: 0 0 370px !important;
}
.warn {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
  margin-bottom: 10px;
}
</style>
