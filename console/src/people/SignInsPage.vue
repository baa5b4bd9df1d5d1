<script setup lang="ts">
import { computed, reactive, ref, toRefs } from 'vue'
import FindField from '../kernel/FindField.vue'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { many } from '../kernel/times'
import { useInAddress } from '../kernel/useInAddress'
import { useMe } from '../kernel/useMe'
import { tell, tellRefused } from '../kernel/snackbar'
import AddSignIn from './AddSignIn.vue'
import ReadersDialog from './ReadersDialog.vue'
import SignOnDialog from './SignOnDialog.vue'
import SignInTable from './SignInTable.vue'
import { usePeople } from './queries'
import { STATES, useInvite, useSignIns } from './signInQueries'

const { isAdministrator } = useMe()
const { data, error, asyncStatus, refetch } = useSignIns()
const { data: people } = usePeople()
const { mutateAsync: invite, asyncStatus: inviting } = useInvite()
const narrowed = reactive({ find: '', state: '' })
useInAddress(narrowed)
const { find, state } = toRefs(narrowed)
const adding = ref(false)
const providing = ref(false)
const reading = ref(false)
const without = computed(() => {
  const have = new Set(data.value?.map((s) => s.person))
  return data.value ? (people.value ?? []).filter((p) => !have.has(p.id)) : []
})
const states = computed(() => {
  const counts = new Map<string, number>()
  data.value?.forEach((s) => counts.set(s.state, (counts.get(s.state) ?? 0) + 1))
  return [
    { value: '', title: 'all', n: data.value?.length },
    ...[...counts].sort().map(([value, n]) => ({ value, title: STATES[value] ?? value, n })),
  ]
})
const shown = computed(
  () =>
    data.value?.filter(
      (s) =>
        (!state.value || s.state === state.value) &&
        `${s.name} ${s.login} ${s.team} ${s.role}`.toLowerCase().includes(find.value.trim().toLowerCase()),
    ) ?? [],
)

async function inviteAll() {
  await invite({ people: [], role: null }).then((all) => {
    const failed = all.filter((one) => one.problem)
    const says = `${many(all.length - failed.length, 'letter')} on the way`
    tell(
      failed.length
        ? `${says}; not invited: ${failed.map((f) => `${f.person} (${f.problem})`).join(', ')}`
        : says,
    )
  }, tellRefused)
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Sign-ins</h1>
      <span class="quiet">who gets in, as what, and by what</span>
    </header>
    <div class="bar">
      <FindField v-model="find" placeholder="name, login, team or role" does="Find a sign-in" />
      <ViewTabs v-model="state" :views="states" label="State" />
      <span class="quiet" aria-live="polite">{{ data ? many(shown.length, 'sign-in') : '…' }}</span>
      <template v-if="isAdministrator">
        <v-btn size="small" color="primary" @click="adding = true">New sign-in…</v-btn>
        <v-btn size="small" @click="providing = true">Single sign-on…</v-btn>
        <v-btn size="small" @click="reading = true">Readers…</v-btn>
        <v-btn
          v-if="without.length"
          size="small"
          :loading="inviting === 'loading'"
          :title="
            without
              .map((p) => p.name)
              .slice(0, 20)
              .join(', ')
          "
          @click="inviteAll"
          >Invite {{ many(without.length, 'person', 'people') }} without one</v-btn
        >
      </template>
    </div>
    <div class="panes">
      <div class="pane list">
        <StateNote
          v-if="(error && !data) || !shown.length"
          :error="error"
          :loading="asyncStatus === 'loading' && !data"
          empty="Nobody fits"
          todo="Take a filter away."
          @again="refetch()"
        />
        <SignInTable v-else :sign-ins="shown" :may-change="isAdministrator" />
      </div>
    </div>
    <AddSignIn v-if="adding" @close="adding = false" />
    <SignOnDialog v-if="providing" @close="providing = false" />
    <ReadersDialog v-if="reading" @close="reading = false" />
  </div>
</template>

<style scoped>
.list {
  flex: 1;
}
</style>
