<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'

/** What a change would do: numbers first, then whose and why, then examples. */
const props = defineProps<{
  now: Schemas['RehearsalInfo'] | null
  error: Error | null
  /** The page was changed since: what is told is of another change. */
  overtaken: boolean
  mayApply: boolean
}>()
defineEmits<{ apply: []; undo: []; stop: []; again: [] }>()
const report = computed(() => props.now?.report ?? null)
const nothing = computed(() => {
  const a = report.value?.activities
  return a ? a.appear + a.vanish + a.readers + a.links === 0 : false
})
const percent = computed(() => (props.now?.total ? Math.round((100 * props.now.done) / props.now.total) : 0))
const groups = computed(() =>
  report.value
    ? [
        { title: 'By person', tallies: report.value.byPerson },
        { title: 'By account', tallies: report.value.byAccount },
        { title: 'By reason', tallies: report.value.byReason },
      ].filter((g) => g.tallies.length)
    : [],
)
</script>

<template>
  <section aria-label="What the change would do" aria-live="polite">
    <h2>What it would do</h2>
    <StateNote v-if="error" :error="error" @again="$emit('again')" />
    <slot v-else-if="!now" />
    <div v-else-if="now.state === 'running'" class="note">
      <progress :value="now.done" :max="now.total || 1" :aria-label="`${percent} % rehearsed`"></progress>
      <p>{{ now.done.toLocaleString('en-GB') }} of {{ many(now.total, 'item') }} rehearsed</p>
      <v-btn size="small" variant="text" @click="$emit('stop')">Stop</v-btn>
    </div>
    <template v-else-if="report">
      <p v-if="now.state === 'applied'" role="status" class="done">
        Applied. What follows from it is done in the background.
        <text-btn @click="$emit('undo')">Undo</text-btn>
      </p>
      <p v-else-if="now.state === 'undone'" role="status" class="done">Undone.</p>
      <p v-if="nothing" class="lead">Nothing on any timeline would change.</p>
      <dl v-else class="counts">
        <div v-for="c in ['appear', 'vanish', 'readers', 'links'] as const" :key="c">
          <dt>
            {{ { appear: 'appear', vanish: 'vanish', readers: 'other readers', links: 'other links' }[c] }}
          </dt>
          <dd :class="{ zero: !report.activities[c] }">
            {{ report.activities[c].toLocaleString('en-GB') }}
          </dd>
        </div>
      </dl>
      <p class="quiet">
        {{ many(report.items, 'item') }} touched, {{ many(report.decisions, 'decision') }} would
        differ<template v-if="report.fetched"
          >; headers of {{ report.fetched.toLocaleString('en-GB') }} were fetched to tell, and not
          kept</template
        >.
      </p>
      <p v-for="n in report.notes" :key="n" class="warn">{{ n }}</p>
      <div v-if="mayApply && now.state === 'done'" class="d-flex ga-3 my-3">
        <v-btn color="primary" :disabled="now.old || overtaken" @click="$emit('apply')"
          >Apply this change</v-btn
        >
      </div>
      <details v-for="g in groups" :key="g.title" :open="g.title === 'By person'">
        <summary>
          {{ g.title }} <span class="quiet">{{ g.tallies.length }}</span>
        </summary>
        <v-table class="plain">
          <thead>
            <tr>
              <td></td>
              <th class="num">appear</th>
              <th class="num">vanish</th>
              <th class="num">readers</th>
              <th class="num">links</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in g.tallies.slice(0, 12)" :key="t.id">
              <td class="nowrap">{{ t.name }}</td>
              <td class="num">{{ t.counts.appear || '' }}</td>
              <td class="num">{{ t.counts.vanish || '' }}</td>
              <td class="num">{{ t.counts.readers || '' }}</td>
              <td class="num">{{ t.counts.links || '' }}</td>
            </tr>
          </tbody>
        </v-table>
        <p v-if="g.tallies.length > 12" class="quiet">and {{ g.tallies.length - 12 }} more</p>
      </details>
      <details v-if="report.examples.length">
        <summary>
          Examples <span class="quiet">{{ report.examples.length }}</span>
        </summary>
        <article v-for="e in report.examples" :key="e.item" class="example">
          <h3>
            {{ e.kind }}, <WhenAt :at="e.at" only="day" />, {{ e.person }}
            <span class="quiet">{{ e.effects.join(', ') }}</span>
          </h3>
          <p class="quiet">now</p>
          <ol>
            <li v-for="s in e.before" :key="s">{{ s }}</li>
          </ol>
          <p class="quiet">then</p>
          <ol>
            <li v-for="s in e.after" :key="s">{{ s }}</li>
          </ol>
        </article>
      </details>
    </template>
    <p v-else class="note">The rehearsal {{ now.state }}. {{ now.detail }}</p>
  </section>
</template>

<style scoped>
.counts {
  display: grid;
  grid-template-columns: repeat(4, auto);
  gap: 4px 18px;
  justify-content: start;
  margin: 8px 0;
}
.counts dt {
  font-size: 12.5px;
  color: var(--quiet);
}
.counts dd {
  font-size: 22px;
  font-weight: 600;
  font-variant-numeric: tabular-nums;
}
.counts .zero {
  color: var(--quiet);
  font-weight: 400;
}
.lead {
  font-size: 15px;
  font-weight: 600;
  margin: 8px 0;
}
.warn {
  border-left: 3px solid var(--accent);
  padding-left: 8px;
  margin: 8px 0;
}
.done {
  font-weight: 600;
  margin: 8px 0;
}
details {
  margin-top: 10px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
details .plain th,
details .plain td {
  padding-inline: 0 8px;
}
.example {
  margin: 10px 0;
}
.example ol {
  margin: 0 0 4px 18px;
  font-size: 13px;
}
progress {
  width: 100%;
  accent-color: var(--accent);
}
</style>
