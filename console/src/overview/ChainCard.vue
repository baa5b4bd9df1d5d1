<script setup lang="ts">
import { useVerify } from '../journal/useVerify'

/** Whether the journal's chain holds. */
const { mutate, says, broken, error, asyncStatus } = useVerify()
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>The journal’s chain</h2>
      <router-link to="/journal">Journal</router-link>
    </div>
    <p class="quiet">Each entry carries the hash of the one before. Verifying computes all of them anew.</p>
    <p v-if="says" role="status" :class="{ bad: broken }">{{ says }}</p>
    <p v-if="error" role="alert" class="bad">{{ error.message }}</p>
    <v-btn class="mt-2" size="small" variant="tonal" :loading="asyncStatus === 'loading'" @click="mutate()"
      >Verify the chain</v-btn
    >
  </v-card>
</template>

<style scoped>
.bad {
  color: rgb(var(--v-theme-error));
  font-weight: 600;
}
</style>
