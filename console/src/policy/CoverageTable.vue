<script setup lang="ts">
import type { Schemas } from '../api/client'
import DateField from '../kernel/DateField.vue'
import PickCell from '../kernel/PickCell.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { dateText } from '../kernel/times'
import { usePicked } from '../kernel/usePicked'
import { useCoverEnd } from './coverageQueries'

const props = defineProps<{ people: Schemas['CoverageInfo'][]; mayChange: boolean }>()
/** Ids of those that are picked. */
const picked = defineModel<string[]>('picked', { default: () => [] })
const { all, some, has, pick } = usePicked(picked, () => props.people)
const { mutateAsync: end } = useCoverEnd()
async function change(p: Schemas['CoverageInfo'], until: string) {
  const before = p.coverUntil ?? ''
  if (until === before) return
  await end({ id: p.id, until }).then(
    () =>
      tell(until ? `${p.name} is covered until ${dateText(until)}` : `${p.name}’s cover has no end`, () =>
        end({ id: p.id, until: before }),
      ),
    tellRefused,
  )
}
const GOOD = ['capturing', 'connecting']
</script>

<template>
  <v-table class="plain">
    <thead>
      <tr>
        <PickCell v-if="mayChange" v-model="all" :some="some" label="Select all that are shown" />
        <th>Person</th>
        <th>Team</th>
        <th>Role</th>
        <th>Policy</th>
        <th>Because</th>
        <th>State</th>
        <th>Last item</th>
        <th class="num">Silent days</th>
        <th>Cover ends</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in people" :key="p.id">
        <PickCell
          v-if="mayChange"
          :model-value="has(p.id)"
          :label="`Select ${p.name}`"
          @update:model-value="pick(p.id, $event)"
        />
        <td class="nowrap">
          <router-link :to="{ path: '/decisions', query: { person: p.id } }"
            ><b>{{ p.name }}</b></router-link
          >
        </td>
        <td>{{ p.team }}</td>
        <td>{{ p.role }}</td>
        <td>{{ p.policyName ?? '–' }}</td>
        <td class="quiet">{{ p.why }}</td>
        <td :class="{ bad: !GOOD.includes(p.state) }">{{ p.state.replaceAll('-', ' ') }}</td>
        <td class="nowrap quiet"><WhenAt v-if="p.lastItem" :at="p.lastItem" only="distance" /></td>
        <td class="num" :class="{ bad: (p.silentDays ?? 0) >= 7 }">{{ p.silentDays ?? '' }}</td>
        <td class="nowrap">
          <v-menu
            v-if="mayChange"
            :close-on-content-click="false"
            location="bottom end"
            role="dialog"
            :aria-label="`The end of cover of ${p.name}`"
          >
            <template #activator="{ props: menu }">
              <text-btn v-bind="menu" :aria-label="`The end of cover of ${p.name}`">{{
                p.coverUntil ? dateText(p.coverUntil) : 'set…'
              }}</text-btn>
            </template>
            <v-card class="pa-3">
              <DateField
                :model-value="p.coverUntil ?? ''"
                label="Last day of cover"
                clearable
                @update:model-value="change(p, $event)"
              />
            </v-card>
          </v-menu>
          <template v-else>{{ p.coverUntil ? dateText(p.coverUntil) : '' }}</template>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.bad {
  font-weight: 600;
  color: rgb(var(--v-theme-error));
}
</style>
