<script setup lang="ts">
import { useOpening } from './queries'

/** What a meeting opened or joined by a policy, and why; nothing where no policy looked at it. */
const props = defineProps<{ item: string }>()
const { data } = useOpening(() => props.item)
</script>

<template>
  <p v-if="data?.did" class="did">
    <template v-if="data.did === 'undone'">What it opened was taken back.</template>
    <template v-else-if="data.did === 'leads'">Its guests became leads.</template>
    <template v-else-if="data.did === 'waits'">It is looked at again tomorrow.</template>
    <template v-else-if="data.did === 'nothing'">It opened no opportunity.</template>
    <template v-else
      >It {{ data.did }}
      <router-link v-if="data.opportunity && data.name" :to="`/timeline/${data.opportunity}`">{{
        data.name
      }}</router-link><template v-else>an opportunity that has been removed</template>.</template
    >
    <span class="quiet"> {{ data.why }} By the policy “{{ data.policy }}”.</span>
  </p>
</template>

<style scoped>
.did {
  padding-top: 6px;
}
</style>
