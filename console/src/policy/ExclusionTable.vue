<script setup lang="ts">
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'

defineProps<{ exclusions: Schemas['ExclusionInfo'][]; mayRemove: boolean }>()
const KINDS: Record<string, string> = {
  address: 'address',
  domain: 'domain and below',
  'domain-alone': 'domain alone',
  pattern: 'addresses like this',
  header: 'mail marked so',
  list: 'mailing list',
  category: 'meeting category',
  class: 'meeting class',
  title: 'words in the title',
}
defineEmits<{ remove: [exclusion: Schemas['ExclusionInfo']] }>()
</script>

<template>
  <v-table class="plain">
    <thead>
      <tr>
        <th>What</th>
        <th>Covers</th>
        <th class="num">Keeps out</th>
        <th>Reason</th>
        <th>Added</th>
        <td v-if="mayRemove"></td>
      </tr>
    </thead>
    <tbody>
      <tr v-for="e in exclusions" :key="e.id">
        <td>
          <b>{{ e.what }}</b>
        </td>
        <td class="quiet nowrap">{{ KINDS[e.kind] }}{{ e.person ? `, for ${e.person} alone` : '' }}</td>
        <td class="num">
          <router-link v-if="e.items" :to="{ path: '/decisions', query: { exclusion: e.id } }">{{
            e.items.toLocaleString('en-GB')
          }}</router-link>
          <span v-else class="quiet">nothing yet</span>
        </td>
        <td>
          {{ e.reason }}
          <div v-if="e.lastDay" class="quiet">until {{ e.lastDay }}</div>
        </td>
        <td>
          {{ e.addedBy }}
          <div class="quiet nowrap"><WhenAt :at="e.addedAt" only="distance" /></div>
        </td>
        <td v-if="mayRemove">
          <text-btn :aria-label="`Remove ${e.what}`" @click="$emit('remove', e)">Remove</text-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>
