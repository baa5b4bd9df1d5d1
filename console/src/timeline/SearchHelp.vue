<script setup lang="ts">
/** What can be typed into the search. */
const WAYS = [
  ['mooring plan', 'both words, in any of their forms, with or without accents'],
  ['"back to the quay"', 'these words one after another'],
  ['buo*', 'words that begin so'],
  ['from:bram to:maren with:port.example', 'who wrote, to whom, and anybody who takes part'],
  ['of:maren', 'whose mailbox or calendar has it'],
  ['in:skarvik', 'on whose timeline it stands'],
  ['has:attachment', 'with something attached'],
  ['after:2026-05-04 before:2026-06-01', 'from that day on, and before that day'],
  ['-offer -from:bram', 'a minus before anything: without it'],
]
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props }">
      <text-btn v-bind="props">How to search</text-btn>
    </template>
    <v-card class="pa-4" max-width="520" role="dialog" aria-label="How to search">
      <dl>
        <template v-for="[typed, finds] in WAYS" :key="typed">
          <dt>
            <code>{{ typed }}</code>
          </dt>
          <dd class="quiet">{{ finds }}</dd>
        </template>
      </dl>
    </v-card>
  </v-menu>
</template>

<style scoped>
dl {
  display: grid;
  gap: 2px;
}
dd {
  margin: 0 0 6px;
}
</style>
