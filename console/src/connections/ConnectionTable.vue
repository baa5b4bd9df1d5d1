<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import WhenAt from '../shared/WhenAt.vue'
import ChooseSources from './ChooseSources.vue'
import ConnectionActs from './ConnectionActs.vue'

defineProps<{ connections: Schemas['ConnectionInfo'][] }>()

const choosing = ref<Schemas['ConnectionInfo']>()

function lookedAt(c: Schemas['ConnectionInfo']): string {
  const chosen = c.sources.filter((s) => s.chosen).map((s) => s.label)
  return chosen.join(', ') || 'nothing chosen'
}

function sum(
  c: Schemas['ConnectionInfo'],
  what: 'seen' | 'logged' | 'waiting' | 'leftOut' | 'unreadable',
): string {
  return c.sources.reduce((n, s) => n + s[what], 0).toLocaleString('en-GB')
}
</script>

<template>
  <table class="plain">
    <thead>
      <tr>
        <th>Person</th>
        <th>Sources</th>
        <th>State</th>
        <th>Last look</th>
        <th class="num">Seen</th>
        <th class="num">Logged</th>
        <th class="num">Waiting</th>
        <th class="num">Left out</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in connections" :key="c.id">
        <td class="nowrap">
          <b>{{ c.personName }}</b>
        </td>
        <td class="nowrap">
          <span :title="`${c.account} at ${c.server}, read from ${c.since.slice(0, 10)} on`">
            {{ c.kind === 'imap' ? 'mail' : 'calendar' }}
          </span>
          <button
            v-if="c.sources.length"
            class="linkish quiet"
            :aria-label="`Choose what of ${c.account} is looked at`"
            @click="choosing = c"
          >
            {{ lookedAt(c) }}
          </button>
          <span v-else class="quiet">not looked at yet</span>
        </td>
        <td :class="{ bad: c.detail && !['paused', 'disconnected'].includes(c.state) }">
          {{ c.state.replaceAll('-', ' ') }}
          <div v-if="c.detail" class="detail-line">{{ c.detail }}</div>
        </td>
        <td class="nowrap quiet">
          <WhenAt v-if="c.lastRun" :at="c.lastRun" only="distance" /><template v-else>never</template>
        </td>
        <td class="num">{{ sum(c, 'seen') }}</td>
        <td class="num">{{ sum(c, 'logged') }}</td>
        <td class="num">{{ sum(c, 'waiting') }}</td>
        <td class="num">{{ sum(c, 'leftOut') }}</td>
        <td>
          <ConnectionActs :connection="c" />
        </td>
      </tr>
    </tbody>
  </table>
  <ChooseSources v-if="choosing" :key="choosing.id" :connection="choosing" @close="choosing = undefined" />
</template>

<style scoped>
b {
  font-weight: 600;
}
.bad {
  color: rgb(var(--v-theme-error));
  font-weight: 600;
}
.detail-line {
  font-weight: 400;
  max-width: 34ch;
}
</style>
