<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What stands here alone, by whose it is, and how much of it could go out. */
defineProps<{ here: Schemas['HereStand'][] }>()
defineEmits<{ send: [of: Schemas['HereStand']] }>()
</script>

<template>
  <table class="plain narrow">
    <thead>
      <tr>
        <th>Person</th>
        <th class="num">Made here alone</th>
        <th class="num">Could go out</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="h in here" :key="h.person">
        <td>{{ h.personName }}</td>
        <td class="num">{{ h.meetings }}</td>
        <td class="num">{{ h.couldGo }}</td>
        <td>
          <button v-if="h.couldGo" class="linkish" @click="$emit('send', h)">Send out…</button>
          <span class="quiet">the policy lets these kinds go to no calendar</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: auto;
}
</style>
