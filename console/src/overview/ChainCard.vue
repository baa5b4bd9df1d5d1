<script setup lang="ts">
import { useMutation } from '@pinia/colada'
import { answered, api } from '../api/client'
import { many } from '../kernel/times'

/** Whether the journal's chain holds, computed when somebody asks for it. */
const { mutate, data, error, asyncStatus } = useMutation({
  mutation: () => answered(api.GET('/api/journal/verify')),
})
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>The journal’s chain</h2>
      <router-link to="/journal">Journal</router-link>
    </div>
    <p class="quiet">Each entry carries the hash of the one before. Verifying computes all of them anew.</p>
    <p v-if="data" role="status" :class="{ bad: data.broken }">
      {{
        data.broken
          ? `Entry ${data.broken} does not fit: ${data.why}.`
          : `All ${many(data.entries, 'entry', 'entries')} fit; the last hash is ${data.head.slice(0, 16)}…`
      }}
    </p>
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
