<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { useHistory } from './queries'

/** How an opportunity was, and since when. */
const props = defineProps<{ id: string }>()
const { data } = useHistory(() => props.id)
function worth(c: { value: string; currency: string; period: string }): string {
  return c.value && `${c.value} ${c.currency}${c.period === 'month' ? ' a month' : ''}`.trim()
}
</script>

<template>
  <section v-if="data?.length">
    <h2>
      History <span class="quiet">{{ data.length }}</span>
    </h2>
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
