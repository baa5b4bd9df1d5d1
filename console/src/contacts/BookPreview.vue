<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed, ref } from 'vue'
import RefusedLine from '../kernel/RefusedLine.vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useDoing } from '../kernel/useDoing'
import PrivateCategories from './PrivateCategories.vue'
import { useApprove, usePreview, useTakeBack } from './queries'

/** What is in a book and why, what would come of it, and what came of it, which can be taken back. */
const props = defineProps<{ source: number }>()
defineEmits<{ close: [] }>()
const { data, error, asyncStatus, refetch } = usePreview(() => props.source)
const { mutateAsync: approve } = useApprove()
const { mutateAsync: takeBack } = useTakeBack()
const { busy, refused, doing } = useDoing()
const sure = ref(false)
const book = computed(() => data.value?.book)
const waits = computed(() => {
  const b = book.value
  if (!b?.waits) return ''
  const parts = [
    b.creates ? `make ${many(b.creates, 'new contact')}` : '',
    b.writes ? `write ${many(b.writes, 'card')} into the book` : '',
  ].filter(Boolean)
  return parts.length
    ? `It would ${parts.join(' and ')}.`
    : 'It was taken back, and starts again once it is approved.'
})
const start = () =>
  doing(async () => {
    await approve(props.source)
    tell('Approved: it starts now')
  })
const back = () =>
  doing(async () => {
    sure.value = false
    const undone = await takeBack(props.source)
    tell(`${many(undone.contacts, 'contact')} and ${many(undone.cards, 'card')} are taken back`)
  })
</script>

<template>
  <aside aria-label="Address book">
    <StateNote
      v-if="error || !data || !book"
      :error="error"
      :loading="asyncStatus === 'loading'"
      @again="refetch()"
    />
    <div v-else class="body">
      <header class="head">
        <div>
          <h2>{{ book.personName }}: {{ book.label }}</h2>
          <span class="quiet">{{ book.account }}</span>
        </div>
        <v-btn :icon="mdiClose" size="small" variant="text" aria-label="Close" @click="$emit('close')" />
      </header>
      <section v-if="book.waits" class="waits" role="status">
        <p>
          <b>Nothing happens yet.</b> {{ waits }}
          <span class="quiet">Waiting since <WhenAt :at="book.waits" only="distance" />.</span>
        </p>
        <v-btn v-if="book.mayChange" color="primary" :loading="busy" @click="start">Approve and start</v-btn>
        <span v-else class="quiet">Its owner or an administrator approves it.</span>
      </section>
      <RefusedLine v-if="refused" :refused="refused" />
      <section v-if="data.creates.length">
        <h3>Would become contacts</h3>
        <ul>
          <li v-for="n in data.creates" :key="n">{{ n }}</li>
        </ul>
        <p v-if="book.fresh > data.creates.length" class="quiet">
          and {{ many(book.fresh - data.creates.length, 'other') }}
        </p>
      </section>
      <section v-if="data.writes.length">
        <h3>Would be put into the book</h3>
        <ul>
          <li v-for="n in data.writes" :key="n">{{ n }}</li>
        </ul>
        <p v-if="book.writes > data.writes.length" class="quiet">
          and {{ many(book.writes - data.writes.length, 'other') }}
        </p>
      </section>
      <section>
        <h3>What is in it</h3>
        <p v-if="!data.cards.length" class="quiet">No card has been read yet.</p>
        <table v-else class="counts">
          <tr v-for="c in data.cards" :key="c.says">
            <td class="num">{{ c.count }}</td>
            <td>{{ c.says }}</td>
          </tr>
        </table>
      </section>
      <PrivateCategories v-if="book.mayChange" :connection="book.connection" />
      <section v-if="book.mayChange && book.made">
        <h3>Taking it back</h3>
        <p class="quiet">
          Contacts that were made from this book are removed, and cards that were written into it, unless
          somebody has used or changed them since. It waits for approval afterwards.
        </p>
        <v-btn v-if="!sure" variant="tonal" @click="sure = true">Take back {{ book.made }}…</v-btn>
        <template v-else>
          <v-btn color="error" :loading="busy" @click="back">Take back {{ book.made }}</v-btn>
          <v-btn variant="text" @click="sure = false">Cancel</v-btn>
        </template>
      </section>
    </div>
  </aside>
</template>

<style scoped>
.body {
  display: grid;
  gap: 16px;
}
.head {
  display: flex;
  justify-content: space-between;
}
.waits {
  padding: 12px;
  border: 1px solid var(--line);
  border-left: 3px solid rgb(var(--v-theme-primary));
}
.waits p {
  margin-bottom: 8px;
}
h3 {
  margin-bottom: 4px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
.counts td {
  padding: 2px 10px 2px 0;
  vertical-align: top;
}
</style>
