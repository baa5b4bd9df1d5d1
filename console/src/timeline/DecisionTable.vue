<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import VerdictMark from '../kernel/VerdictMark.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useList } from '../kernel/useList'

defineProps<{ decisions: Schemas['DecisionInfo'][]; opened: string }>()
defineEmits<{ open: [id: string] }>()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)

function what(d: Schemas['DecisionInfo']): string {
  if (d.subject) return d.subject
  if (d.verdict === 'left-out' || d.verdict === 'unreadable') return ''
  return d.visibility === 'full' ? '(no subject)' : 'outline only'
}
</script>

<template>
  <v-table class="plain decisions">
    <thead>
      <tr>
        <th class="when">When</th>
        <th class="v">Verdict</th>
        <th class="k">Kind</th>
        <th class="w">Person</th>
        <th>What and why</th>
      </tr>
    </thead>
    <tbody ref="list" @keydown="move">
      <tr
        v-for="(d, i) in decisions"
        :key="d.id"
        data-row
        :class="{ picked: d.id === opened }"
        :tabindex="i === current ? 0 : -1"
        :aria-selected="d.id === opened"
        @click="((current = i), $emit('open', d.id))"
        @keydown.enter="$emit('open', d.id)"
      >
        <td class="nowrap"><WhenAt :at="d.at" /></td>
        <td><VerdictMark :verdict="d.verdict" /></td>
        <td>{{ d.kind }}</td>
        <td class="clip">{{ d.personName }}</td>
        <td class="clip">
          <b v-if="what(d)">{{ what(d) }}&ensp;</b><span class="quiet">{{ d.trail.at(-1) }}</span>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.decisions :deep(table) {
  table-layout: fixed;
}
.when {
  width: 150px;
}
.v {
  width: 102px;
}
.k {
  width: 76px;
}
.w {
  width: 126px;
}
</style>
