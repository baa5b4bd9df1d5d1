<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { useMe } from '../kernel/useMe'
import { useLast } from '../timeline/decisionQueries'

/** The last few of one's own that went onto timelines, or did not, each with why. */
const props = defineProps<{ verdict: 'logged' | 'left-out'; says: string; none: string }>()
const { me } = useMe()
const { data } = useLast(() => me.value?.person, props.verdict)
</script>

<template>
  <section>
    <h2>
      {{ says }}
      <router-link class="all" :to="{ path: '/decisions', query: { verdict, person: me?.person ?? '' } }"
        >All</router-link
      >
    </h2>
    <p v-if="data && !data.decisions.length" class="quiet">{{ none }}</p>
    <div v-for="d in data?.decisions" :key="d.id" class="line">
      <WhenAt class="quiet nowrap" :at="d.at" only="distance" />
      <div class="what">
        <router-link
          v-if="d.activity && d.subject"
          :to="{ path: '/decisions', query: { verdict, person: me?.person ?? '', open: d.id } }"
          >{{ d.subject }}</router-link
        >
        <span v-else class="clip">{{
          d.subject ||
          d.people.map((p) => p.address).join(', ') ||
          (d.kind === 'mail' ? 'A message' : 'A meeting')
        }}</span>
        <div class="quiet">{{ d.trail.at(-1) }}</div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.all {
  font-weight: 400;
  font-size: 13px;
  margin-left: 6px;
}
.line {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 8px;
  padding: 5px 0;
}
.line + .line {
  border-top: 1px solid var(--line);
}
.what {
  min-width: 0;
}
.what .quiet {
  margin: 0;
  padding: 0;
}
</style>
