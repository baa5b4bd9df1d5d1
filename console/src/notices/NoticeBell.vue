<script setup lang="ts">
import { mdiBellOutline } from '@mdi/js'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useShortcuts } from '../kernel/shortcuts'
import { clockOf, many } from '../kernel/times'
import NoticeList from './NoticeList.vue'
import RingingNotes from './RingingNotes.vue'
import { useNotices, type Notice } from './queries'
import { newlyRinging, notify, useNext } from './ringing'

/** What concerns this person: a count, the list, and what rings. */
const NoticeChoice = defineAsyncComponent(() => import('./NoticeChoice.vue'))
const router = useRouter()
const route = useRoute()
const { data, error, isPending, refetch } = useNotices()
const open = ref(false)
const choosing = ref(false)
const unread = computed(() => data.value?.unread ?? 0)
const ringing = computed(() => data.value?.notices.filter((n) => n.rings) ?? [])
useNext(
  computed(() => data.value?.next),
  () => void refetch(),
)

const rang = new Set<string>()
function saysWhen(n: Notice) {
  return [n.allDay ? 'Today' : clockOf(n.at), n.detail].filter(Boolean).join(' · ')
}
watch(data, (now) =>
  newlyRinging(now?.notices ?? [], rang).forEach((n) =>
    notify(n, saysWhen(n), () => void router.push(n.path)),
  ),
)
// it stands over the page that it was opened on, and over no other
watch(
  () => route.fullPath,
  () => (open.value = false),
)
useShortcuts([{ keys: 'g b', does: 'Notices', run: () => (open.value = !open.value) }])
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" location="bottom end" offset="4">
    <template #activator="{ props: button }">
      <v-btn
        v-bind="button"
        size="small"
        variant="text"
        icon
        title="Notices (g b)"
        :aria-label="unread ? `Notices, ${unread} unread` : 'Notices'"
      >
        <v-badge :model-value="unread > 0" :content="unread" :max="99" color="accent" aria-hidden="true">
          <v-icon :icon="mdiBellOutline" />
        </v-badge>
      </v-btn>
    </template>
    <v-card class="notices" role="dialog" aria-label="Notices">
      <NoticeList
        :notices="data?.notices"
        :error="error"
        :loading="isPending"
        :heading="unread ? many(unread, 'notice') + ' unread' : 'Notices'"
        @close="open = false"
        @choose="((choosing = true), (open = false))"
      />
    </v-card>
  </v-menu>
  <RingingNotes :notices="ringing" />
  <NoticeChoice v-if="choosing" v-model="choosing" />
</template>

<style scoped>
.notices {
  width: 420px;
  max-width: calc(100vw - 16px);
}
</style>
