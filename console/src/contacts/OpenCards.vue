<script setup lang="ts">
import RefusedLine from '../kernel/RefusedLine.vue'
import StateNote from '../kernel/StateNote.vue'
import { tell } from '../kernel/snackbar'
import { useDoing } from '../kernel/useDoing'
import { useOpenCards, useSettleCard } from './queries'
import type { Schemas } from '../api/client'

/** Cards that fit several contacts, side by side with each of them. */
const { data, error, asyncStatus, refetch } = useOpenCards()
const { mutateAsync } = useSettleCard()
const { busy, refused, doing } = useDoing()
function settle(card: Schemas['OpenCard'], choice: string, contact: string | null, says: string) {
  void doing(async () => {
    await mutateAsync({ id: card.id, body: { choice, contact } })
    tell(`${card.name} ${says}`)
  })
}
const about = (...parts: string[]) => parts.filter(Boolean).join(' · ')
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <StateNote
    v-else-if="!data.length"
    empty="Every card is somebody’s"
    todo="A card that fits several contacts waits here until somebody says whose it is."
  />
  <div v-else class="cards">
    <RefusedLine v-if="refused" :refused="refused" />
    <section v-for="c in data" :key="c.id" class="one" :aria-label="c.name">
      <div>
        <h2>{{ c.name }}</h2>
        <p>{{ about(c.title, c.organisation) }}</p>
        <p class="mono">{{ about(...c.addresses, ...c.phones) }}</p>
        <p class="quiet">{{ c.why }}. In the book “{{ c.book }}” of {{ c.personName }}.</p>
        <div class="acts">
          <v-btn
            size="small"
            variant="tonal"
            :disabled="busy"
            @click="settle(c, 'new', null, 'is a contact now')"
            >Somebody new</v-btn
          >
          <v-btn
            size="small"
            variant="text"
            :disabled="busy"
            @click="settle(c, 'leave-out', null, 'is left out from now on')"
            >Leave out</v-btn
          >
        </div>
      </div>
      <ul>
        <li v-for="f in c.fits" :key="f.id">
          <div>
            <router-link :to="`/timeline/${f.id}`"
              ><b>{{ f.name }}</b></router-link
            >
            <span class="quiet"> {{ about(f.title, f.account) }}</span>
            <div class="mono">{{ f.addresses }}</div>
            <div class="quiet">{{ f.speaks.join(', ') }}</div>
          </div>
          <v-btn
            size="small"
            variant="tonal"
            :disabled="busy"
            :aria-label="`It is ${f.name}`"
            @click="settle(c, 'contact', f.id, `is ${f.name}`)"
            >This one</v-btn
          >
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.cards {
  padding: 0 20px 16px;
}
.one {
  display: grid;
  grid-template-columns: minmax(220px, 2fr) 3fr;
  gap: 24px;
  padding: 14px 0;
  border-bottom: 1px solid var(--line);
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  padding: 4px 0;
}
@media (max-width: 700px) {
  .one {
    grid-template-columns: 1fr;
    gap: 8px;
  }
}
</style>
