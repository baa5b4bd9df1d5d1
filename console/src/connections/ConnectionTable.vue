<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import PickCell from '../kernel/PickCell.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useMe } from '../kernel/useMe'
import { usePicked } from '../kernel/usePicked'
import ChooseSources from './ChooseSources.vue'
import ConnectionActs from './ConnectionActs.vue'
import HeldChange from './HeldChange.vue'
import { isTroubled } from './queries'

const props = defineProps<{ connections: Schemas['ConnectionInfo'][] }>()
/** Ids of those that are picked. */
const picked = defineModel<string[]>('picked', { default: () => [] })

const KINDS: Record<string, string> = { imap: 'mail', carddav: 'contacts', smtp: 'by hand' }
const looking = ref<Schemas['SourceInfo']>()
const choosing = ref<Schemas['ConnectionInfo']>()

const { me, isAdministrator } = useMe()

const { all, some, has, pick } = usePicked(picked, () => props.connections)

/** Managers and auditors look on; only whose it is and an administrator act. */
function mayChange(c: Schemas['ConnectionInfo']): boolean {
  return isAdministrator.value || c.person === me.value?.person
}

function lookedAt(c: Schemas['ConnectionInfo']): string {
  if (!c.sources.length) return 'not read yet'
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
  <v-table class="plain">
    <thead>
      <tr>
        <PickCell v-if="isAdministrator" v-model="all" :some="some" label="Select all that are shown" />
        <th>Person</th>
        <th>Sources</th>
        <th>State</th>
        <th>Last run</th>
        <th class="num">Seen</th>
        <th class="num">Logged</th>
        <th class="num">Waiting</th>
        <th class="num">Left out</th>
        <td></td>
      </tr>
    </thead>
    <tbody>
      <template v-for="c in connections" :key="c.id">
        <tr :class="{ told: c.detail }">
          <PickCell
            v-if="isAdministrator"
            :model-value="has(c.id)"
            :label="`Select ${c.account} at ${c.server}`"
            @update:model-value="pick(c.id, $event)"
          />
          <td class="nowrap">
            <b>{{ c.personName }}</b>
          </td>
          <td class="nowrap">
            <span :title="`${c.account} at ${c.server}, read from ${c.since.slice(0, 10)} on`">
              {{ KINDS[c.kind] ?? 'calendar' }}
            </span>
            <text-btn
              v-if="c.sources.length && mayChange(c)"
              class="quiet"
              :aria-label="`Choose sources of ${c.account}`"
              @click="choosing = c"
            >
              {{ lookedAt(c) }}
            </text-btn>
            <span v-else class="quiet">{{ lookedAt(c) }}</span>
          </td>
          <td class="nowrap" :class="{ bad: isTroubled(c) }">
            {{ c.state.replaceAll('-', ' ')
            }}<span
              v-if="c.live && c.state === 'capturing'"
              class="quiet"
              title="the server reports changes as they happen"
              >, live</span
            >
          </td>
          <td class="quiet nowrap">
            <WhenAt v-if="c.lastRun" :at="c.lastRun" only="distance" /><template v-else>never</template>
          </td>
          <td v-if="c.kind === 'carddav'" class="num" colspan="4">
            <router-link to="/address-books">see Address books</router-link>
          </td>
          <template v-else>
            <td class="num">{{ sum(c, 'seen') }}</td>
            <td class="num">{{ sum(c, 'logged') }}</td>
            <td class="num">{{ sum(c, 'waiting') }}</td>
            <td class="num">{{ sum(c, 'leftOut') }}</td>
          </template>
          <td class="nowrap">
            <ConnectionActs v-if="mayChange(c)" :connection="c" />
          </td>
        </tr>
        <tr v-if="c.detail">
          <td v-if="isAdministrator"></td>
          <td></td>
          <td colspan="8" class="detail-line" :class="{ bad: isTroubled(c) }">{{ c.detail }}</td>
        </tr>
        <tr v-for="s in c.sources.filter((held) => held.held)" :key="s.id">
          <td v-if="isAdministrator"></td>
          <td></td>
          <td colspan="8" class="bad">
            {{ s.held }} from “{{ s.label }}”: nothing is removed until somebody confirms it.
            <text-btn v-if="mayChange(c)" @click="looking = s">Review</text-btn>
          </td>
        </tr>
      </template>
    </tbody>
  </v-table>
  <HeldChange v-if="looking" :key="looking.id" :source="looking" @close="looking = undefined" />
  <ChooseSources v-if="choosing" :key="choosing.id" :connection="choosing" @close="choosing = undefined" />
</template>

<style scoped>
/* nine columns beside the form: a little less air each, and none is cut off at 1280 */
.plain :is(th, td):not(:first-child) {
  padding-inline: 6px;
}
.bad {
  color: rgb(var(--v-theme-error));
}
td.bad:not(.detail-line) {
  font-weight: 600;
}
tr.told td {
  border-bottom: 0;
  padding-bottom: 0;
}
</style>
