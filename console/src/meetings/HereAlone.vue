<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What stands here alone, by whose it is, and how much of it could go out. */
defineProps<{ here: Schemas['HereStand'][] }>()
defineEmits<{ send: [of: Schemas['HereStand']] }>()
</script>

<template>
  <v-table class="plain narrow">
    <thead>
      <tr>
        <th>Person</th>
        <th class="num">Only here</th>
        <th class="num">Could go out</th>
        <td></td>
      </tr>
    </thead>
    <tbody>
      <tr v-for="h in here" :key="h.person">
        <td>{{ h.personName }}</td>
        <td class="num">{{ h.meetings }}</td>
        <td class="num">{{ h.couldGo }}</td>
        <td>
          <text-btn v-if="h.couldGo" @click="$emit('send', h)">Send out…</text-btn>
          <span class="quiet">the policy lets these kinds go to no calendar</span>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
table {
  width: auto;
}
</style>
