<script setup lang="ts">
import type { Schemas } from '../api/client'
import DecisionTrail from '../kernel/DecisionTrail.vue'
import WhenAt from '../kernel/WhenAt.vue'
import DecisionChanges from './DecisionChanges.vue'
import PinTo from './PinTo.vue'
import { useActivity } from './queries'

const props = defineProps<{ decision: Schemas['DecisionInfo'] }>()
defineEmits<{ close: [] }>()
const { data } = useActivity(() => props.decision.activity ?? '')
</script>

<template>
  <article aria-label="Decision">
    <div class="title">
      <h1>
        {{
          decision.subject ||
          (decision.kind === 'unknown'
            ? 'Something unreadable'
            : decision.kind === 'mail'
              ? 'A message'
              : 'A meeting')
        }}
      </h1>
      <v-btn size="small" variant="text" title="Close (Escape)" @click="$emit('close')">Close</v-btn>
    </div>
    <p class="quiet">
      <WhenAt :at="decision.at" />
      <template v-if="decision.position">
        · place at its source <span class="mono">{{ decision.position }}</span>
      </template>
    </p>
    <p v-if="decision.verdict === 'left-out'" class="quiet">
      Nothing of it is kept here but its place, its time and this reason.
    </p>
    <h2>Why</h2>
    <DecisionTrail :decision="decision" />
    <DecisionChanges :id="decision.id" />
    <p v-for="p in decision.people" :key="p.part + p.address">
      <span class="quiet">{{ p.part.replaceAll('_', ' ') }}</span> {{ p.name }}
      <span class="quiet">{{ p.address }}</span>
    </p>
    <PinTo
      v-if="decision.verdict === 'waiting' && decision.people.length"
      :item="decision.item"
      :pinned="[]"
    />
    <template v-if="decision.activity && data">
      <h2 v-if="data.links.length">On the timelines of</h2>
      <p v-for="l in data.links" :key="l.id">
        <router-link :to="`/timeline/${l.id}`">{{ l.name }}</router-link>
        <span class="quiet"> {{ l.kind }}, by {{ l.evidence.replaceAll('_', ' ') }}</span>
      </p>
      <template v-if="data.decisions.length > 1">
        <h2>The same item at other sources</h2>
        <DecisionTrail
          v-for="d in data.decisions.filter((x) => x.id !== decision.id)"
          :key="d.id"
          :decision="d"
        />
      </template>
    </template>
  </article>
</template>

<style scoped>
.title {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
h2 {
  margin-top: 18px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
</style>
