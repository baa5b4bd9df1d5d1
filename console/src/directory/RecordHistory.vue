<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { computed } from 'vue'
import { many } from '../kernel/times'
import { useHistory, useOpenings } from './queries'

/** How an opportunity was, and since when; and the meetings that opened and joined it. */
const props = defineProps<{ id: string }>()
const { data } = useHistory(() => props.id)
const { data: openings } = useOpenings(() => props.id)
const opener = computed(() => openings.value?.find((o) => o.did === 'opened'))
const joined = computed(() => openings.value?.filter((o) => o.did === 'joined') ?? [])
function worth(c: { value: string; currency: string; period: string }): string {
  return c.value && `${c.value} ${c.currency}${c.period === 'month' ? ' a month' : ''}`.trim()
}
</script>

<template>
  <section v-if="data?.length">
    <h2>
      History <span class="quiet">{{ data.length }}</span>
    </h2>
    <p v-if="opener" class="opened">
      Opened by
      <router-link v-if="opener.item" :to="{ path: `/timeline/${id}`, query: { open: opener.item } }">{{
        opener.title || 'a meeting'
      }}</router-link><template v-else>a meeting that you may not read</template>, as the policy “{{
        opener.policy
      }}” says.
      <span v-if="joined.length" class="quiet"
        >{{ many(joined.length, 'more meeting', 'more meetings') }} joined it.</span
      >
    </p>
    <p v-else-if="joined.length" class="opened quiet">
      {{ many(joined.length, 'meeting', 'meetings') }} joined it, as the policy “{{ joined[0]!.policy }}”
      says.
    </p>
    <ul>
      <li v-for="(c, i) in data" :key="i">
        <WhenAt :at="c.at" /> <b>{{ [c.state, c.stage].filter(Boolean).join(', ') }}</b>
        <span class="quiet">{{
          [worth(c), c.owner, c.channel, c.origin === 'file' ? `from a file by ${c.by}` : `by ${c.by}`]
            .filter(Boolean)
            .join(' · ')
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.opened {
  padding: 4px 0;
}
</style>
