<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { type Schemas } from '../api/client'
import { useRehearsal } from '../rehearsal/queries'
import RehearsalPanel from '../rehearsal/RehearsalPanel.vue'
import StateNote from '../kernel/StateNote.vue'
import { refDebounced } from '../kernel/refDebounced'
import { useMe } from '../kernel/useMe'
import PolicyList from './PolicyList.vue'
import PolicySentences from './PolicySentences.vue'
import PolicyVersions from './PolicyVersions.vue'
import { acts, usePolicies, usePolicyAct } from './queries'

const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = usePolicies()
const act = usePolicyAct()
const picked = ref('')
const policy = computed(() => data.value?.find((p) => p.id === picked.value) ?? data.value?.[0])
const draft = ref<Schemas['PolicyRules'] | null>(null)
const differs = computed(() => JSON.stringify(draft.value) !== JSON.stringify(policy.value?.rules))
const { now, error: failed, rehearse, stop, act: actOn } = useRehearsal()

/** What the copy was made of. */
const copied = ref({ id: '', version: 0, rules: '' })

function copy() {
  copied.value = {
    id: policy.value?.id ?? '',
    version: policy.value?.version ?? 0,
    rules: JSON.stringify(policy.value?.rules),
  }
  draft.value = policy.value
    ? (JSON.parse(JSON.stringify(policy.value.rules)) as Schemas['PolicyRules'])
    : null
}
// the copy is edited: what others save meanwhile does not replace it, and saving it is refused then
watch(
  () => [policy.value?.id, policy.value?.version],
  ([id]) => {
    if (id !== copied.value.id || JSON.stringify(draft.value) === copied.value.rules || !differs.value) copy()
  },
  { immediate: true },
)

function change() {
  return { policy: policy.value?.id, version: copied.value.version, rules: draft.value ?? undefined }
}
const settled = refDebounced(
  computed(() => (differs.value ? JSON.stringify(draft.value) : '')),
  700,
)
watch(settled, () => {
  if (!isAdministrator.value || now.value?.state === 'applied') return
  if (differs.value) void rehearse(change())
  else void stop()
})

async function pick(id: string) {
  picked.value = id
  await stop()
  copy()
}
async function apply() {
  if (await actOn('apply')) await refetch().then(copy)
}
async function undo() {
  if (await actOn('undo')) await refetch().then(copy)
}
function run(work: () => Promise<unknown>) {
  act.mutate(work)
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
            @order="(ids) => run(() => acts.order(ids))"
          />
        </aside>
        <section v-if="policy && draft" class="pane sentences" :aria-label="policy.rules.name">
          <div class="d-flex ga-3 align-center mb-3 flex-wrap">
            <span
              ><b>{{ policy.archived ? 'Archived' : policy.enabled ? 'On' : 'Off' }}</b
              ><span class="quiet">, version {{ policy.version }} by {{ policy.changedBy }}</span></span
            >
            <template v-if="isAdministrator">
              <button v-if="policy.enabled" class="linkish" @click="run(() => acts.off(policy!.id))">
                Switch off
              </button>
              <button v-else class="linkish" @click="run(() => acts.on(policy!.id))">Switch on</button>
              <button class="linkish" @click="run(() => acts.duplicate(policy!.id))">Duplicate</button>
              <button v-if="policy.archived" class="linkish" @click="run(() => acts.restore(policy!.id))">
                Take out of the archive
              </button>
              <button v-else class="linkish" @click="run(() => acts.archive(policy!.id))">Archive</button>
            </template>
          </div>
          <StateNote v-if="act.error.value" :error="act.error.value" @again="refetch()" />
          <p v-for="n in policy.notActiveYet" :key="n" class="warn">{{ n }}</p>
          <PolicySentences
            v-model="draft"
            :policy="policy.id"
            :disabled="!isAdministrator || policy.archived"
          />
          <v-btn v-if="differs" variant="text" @click="copy()">Discard changes</v-btn>
          <PolicyVersions
            :id="policy.id"
            :may-change="isAdministrator"
            @back="(v) => run(() => acts.back(policy!.id, v))"
          />
        </section>
        <aside class="pane detail rehearsal">
          <RehearsalPanel
            :now="now"
            :error="failed"
            :may-apply="isAdministrator"
            @apply="apply"
            @undo="undo"
            @stop="stop"
            @again="rehearse(change())"
          >
            <p class="quiet mt-2">
              Change one of the underlined parts: here then stands what that would do to everything known,
              before anything is done. Switching a policy off or archiving it takes nothing off any timeline.
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
  min-width: 380px;
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
