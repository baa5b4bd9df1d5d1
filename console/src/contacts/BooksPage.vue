<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import HeldChange from '../connections/HeldChange.vue'
import StateNote from '../kernel/StateNote.vue'
import ViewTabs from '../kernel/ViewTabs.vue'
import { useShortcuts } from '../kernel/shortcuts'
import BookPreview from './BookPreview.vue'
import BookTable from './BookTable.vue'
import CardConflicts from './CardConflicts.vue'
import NoAccount from './NoAccount.vue'
import OpenCards from './OpenCards.vue'
import RemovedCards from './RemovedCards.vue'
import { useBooks, useCardConflicts, useNoAccount, useOpenCards, useRemovedCards } from './queries'

/** How address books compare with contacts, and what about them waits for a person. */
const route = useRoute()
const router = useRouter()
const { data, error, asyncStatus, refetch } = useBooks()
const { data: cards } = useOpenCards()
const { data: removed } = useRemovedCards()
const { data: homeless } = useNoAccount()
const { data: conflicts } = useCardConflicts()
const VIEWS = ['books', 'to settle', 'no account', 'conflicts', 'removed'] as const
const view = computed(() => VIEWS.find((v) => v === route.query.view) ?? 'books')
const opened = computed(() => Number(route.query.book) || 0)
const held = ref<{ id: number; label: string; held: string } | null>(null)
const tabs = computed(() => {
  const n: Record<string, number | undefined> = {
    books: data.value?.length,
    'to settle': cards.value?.length,
    removed: removed.value?.length,
    'no account': homeless.value?.length,
    conflicts: conflicts.value?.length,
  }
  return VIEWS.map((v, i) => ({ value: v, title: v, n: n[v], keys: String(i + 1) }))
})
function show(v: string, book = 0) {
  void router.replace({ query: { view: v, ...(book && { book: String(book) }) } })
}
useShortcuts([
  { keys: 'Escape', does: 'Close what is open', run: () => show(view.value) },
  ...VIEWS.map((v, i) => ({ keys: String(i + 1), does: `Show ${v}`, run: () => show(v) })),
])
</script>

<template>
  <div class="page">
    <header>
      <h1>Address books</h1>
      <span class="quiet">how each compares with the contacts here</span>
    </header>
    <div class="bar">
      <ViewTabs :model-value="view" :views="tabs" label="What is shown" @update:model-value="show" />
    </div>
    <div class="panes">
      <div class="pane main" :aria-busy="asyncStatus === 'loading'">
        <template v-if="view === 'books'">
          <StateNote
            v-if="error || !data"
            :error="error"
            :loading="asyncStatus === 'loading'"
            @again="refetch()"
          />
          <StateNote
            v-else-if="!data.length"
            empty="No address book is connected yet"
            todo="Add a server for contacts under Servers, and connect people to it under Connections."
          />
          <BookTable
            v-else
            :books="data"
            :opened="opened"
            @open="show('books', $event)"
            @held="held = $event"
            @settle="show('to settle')"
            @removed="show('removed')"
          />
        </template>
        <OpenCards v-else-if="view === 'to settle'" />
        <RemovedCards v-else-if="view === 'removed'" />
        <NoAccount v-else-if="view === 'no account'" />
        <CardConflicts v-else />
      </div>
      <BookPreview
        v-if="view === 'books' && opened"
        :key="opened"
        :source="opened"
        class="pane detail"
        @close="show('books')"
      />
    </div>
    <HeldChange v-if="held" book :source="held" @close="((held = null), refetch())" />
  </div>
</template>
