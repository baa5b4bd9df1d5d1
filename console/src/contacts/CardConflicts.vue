<script setup lang="ts">
import StateNote from '../kernel/StateNote.vue'
import RefusedLine from '../kernel/RefusedLine.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { tell } from '../kernel/snackbar'
import { useDoing } from '../kernel/useDoing'
import { useBringCardBack, useCardConflicts } from './queries'

/** What was changed here and in a book at once, with both values; one step brings back what lost. */
const { data, error, asyncStatus, refetch } = useCardConflicts()
const { mutateAsync } = useBringCardBack()
const { refused, doing } = useDoing()
const back = (id: string, name: string) =>
  doing(async () => {
    await mutateAsync(id)
    tell(`${name} has the other value now`)
  })
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <StateNote
    v-else-if="!data.length"
    empty="Nothing was changed on both sides at once"
    todo="Where that happens, both values stand here, and one click switches to the other."
  />
  <template v-else>
    <RefusedLine v-if="refused" :refused="refused" />
    <v-table class="plain">
      <thead>
        <tr>
          <th>When</th>
          <th>Contact</th>
          <th>Book of</th>
          <th>What</th>
          <th>Here</th>
          <th>Book</th>
          <th>Kept</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in data" :key="c.id">
          <td class="nowrap"><WhenAt :at="c.at" /></td>
          <td>
            <router-link v-if="c.contact && c.contactName" :to="`/timeline/${c.contact}`">{{
              c.contactName
            }}</router-link>
            <span v-else class="quiet">removed since</span>
          </td>
          <td>{{ c.personName }}</td>
          <td>{{ c.field === 'deleted' ? 'removed against changed' : c.field }}</td>
          <td :class="{ lost: c.stands !== 'here' }">{{ c.here || 'nothing' }}</td>
          <td :class="{ lost: c.stands === 'here' }">{{ c.book || 'nothing' }}</td>
          <td class="nowrap">
            {{ c.broughtBackBy ? `${c.broughtBackBy} chose the other value` : c.stands }}
          </td>
          <td class="nowrap">
            <text-btn v-if="c.canComeBack" @click="back(c.id, c.contactName)">Use the other value</text-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
  </template>
</template>

<style scoped>
.lost {
  color: var(--quiet);
}
td {
  overflow-wrap: anywhere;
}
</style>
