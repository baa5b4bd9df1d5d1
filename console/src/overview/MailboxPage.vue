<script setup lang="ts">
import { computed, onBeforeUnmount, watch } from 'vue'
import { useRoute } from 'vue-router'
import StateNote from '../kernel/StateNote.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useMe } from '../kernel/useMe'
import ConnectOwn from '../connections/ConnectOwn.vue'
import OwnConnection from '../connections/OwnConnection.vue'
import { CONSENTS, useConnections, useOffers } from '../connections/queries'
import { isReading } from '../connections/reading'
import { SHARED, useCoverage, useNarrow, useOwnPolicy } from '../policy/coverageQueries'
import LastDecisions from './LastDecisions.vue'

/** While something is read for the first time. */
const EVERY_MILLIS = 1_500
const { me } = useMe()
const { data: connections, error, asyncStatus, refetch } = useConnections()
const { data: offers } = useOffers()
const { data: policy } = useOwnPolicy()
const { data: coverage } = useCoverage()
const { mutateAsync: narrow } = useNarrow()
const own = computed(() => connections.value?.filter((c) => c.person === me.value?.person) ?? [])
const covered = computed(() => coverage.value?.find((c) => c.id === me.value?.person))
const address = computed(() => covered.value?.addresses[0] ?? me.value?.login ?? '')
const consent = CONSENTS[String(useRoute().query.consent ?? '')] ?? ''
const KINDS = [
  { kind: 'imap', what: 'mail', title: 'Mail' },
  { kind: 'caldav', what: 'calendar', title: 'Calendar' },
  { kind: 'carddav', what: 'contacts', title: 'Contacts' },
] as const

let timer: ReturnType<typeof setInterval> | undefined
watch(
  () => own.value.some(isReading),
  (reading) => {
    clearInterval(timer)
    if (reading) timer = setInterval(() => void refetch(), EVERY_MILLIS)
  },
  { immediate: true },
)
onBeforeUnmount(() => clearInterval(timer))

async function share(sharing: string) {
  const before = covered.value?.sharing
  const id = me.value?.person
  if (!id || !before || sharing === before) return
  await narrow({ person: id, sharing }).then(
    () => tell('Who sees yours is changed', () => narrow({ person: id, sharing: before })),
    tellRefused,
  )
}
</script>

<template>
  <div class="page">
    <header>
      <h1>Your mailbox</h1>
      <span class="quiet">what is yours, what comes of it, and who sees it</span>
      <b v-if="consent" role="status">{{ consent }}</b>
    </header>
    <StateNote
      v-if="me && !me.person"
      empty="This sign-in belongs to no person of the company"
      todo="Only people of the directory have a mailbox and calendars to connect."
    />
    <div v-else class="panes">
      <div class="pane list">
        <StateNote
          v-if="!connections"
          :error="error"
          :loading="asyncStatus === 'loading'"
          empty=""
          todo=""
          @again="refetch()"
        />
        <section v-for="k in KINDS" v-else :key="k.kind" class="part">
          <h2>{{ k.title }}</h2>
          <OwnConnection v-for="c in own.filter((o) => o.kind === k.kind)" :key="c.id" :connection="c" />
          <ConnectOwn
            v-if="offers && address && !own.some((o) => o.kind === k.kind)"
            :offers="offers.filter((o) => o.kind === k.kind)"
            :what="k.what"
            :address="address"
          />
        </section>
        <section v-if="policy" class="part">
          <h2>What your company’s policy does</h2>
          <p v-if="!policy.name" class="quiet">No policy covers you, so nothing of yours is captured.</p>
          <ul v-else class="sentences">
            <li v-for="s in policy.sentences" :key="s">{{ s }}</li>
          </ul>
        </section>
      </div>
      <div class="pane detail side">
        <LastDecisions
          verdict="logged"
          says="Last onto timelines"
          none="Nothing yet. What is exchanged with customers stands here."
        />
        <LastDecisions verdict="left-out" says="Left out, and why" none="Nothing yet." />
        <section v-if="covered">
          <h2>Who sees it</h2>
          <v-select
            :model-value="covered.sharing"
            :items="SHARED"
            label="What your sources bring is read by"
            hint="This narrows what the policy says, and never widens it."
            persistent-hint
            @update:model-value="share(String($event))"
          />
        </section>
        <p>
          <router-link to="/exclusions">Your exclusions</router-link>
          <span class="quiet"> keep addresses and words out of what is yours.</span>
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  padding: 4px 16px 16px;
}
.part {
  padding: 12px 0;
}
.part + .part {
  border-top: 1px solid var(--line);
}
.part h2 {
  margin-bottom: 8px;
}
.side {
  flex: 0 0 400px !important;
  padding: 16px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.sentences {
  margin: 0;
  padding-left: 18px;
}
</style>
