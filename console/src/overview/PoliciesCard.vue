<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { useByPolicy } from '../timeline/decisionQueries'

/** What was captured under which version of which policy. */
const { data } = useByPolicy()
const COLUMNS = [
  { title: 'Logged', verdict: 'logged', of: 'logged' },
  { title: 'Waiting', verdict: 'waiting', of: 'waiting' },
  { title: 'Left out', verdict: 'left-out', of: 'leftOut' },
] as const
const n = (count: number) => count.toLocaleString('en-GB')
</script>

<template>
  <v-card class="card">
    <div class="head">
      <h2>Captured under each policy</h2>
      <router-link to="/policy">Policies</router-link>
    </div>
    <p class="quiet">
      All that is captured is decided by the newest version; what came under one before was decided again by
      it.
    </p>
    <v-table class="plain">
      <thead>
        <tr>
          <th>Policy</th>
          <th>Version</th>
          <th class="num">People</th>
          <th v-for="c in COLUMNS" :key="c.of" class="num">{{ c.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in data" :key="p.policy">
          <td class="nowrap">
            <b>{{ p.name }}</b>
          </td>
          <td class="nowrap" :title="`by ${p.changedBy}`">
            {{ p.version }}<span class="quiet">, changed <WhenAt :at="p.since" only="distance" /></span>
          </td>
          <td class="num">{{ n(p.people) }}</td>
          <td v-for="c in COLUMNS" :key="c.of" class="num">
            <router-link :to="{ path: '/decisions', query: { policy: p.policy, verdict: c.verdict } }">{{
              n(p[c.of])
            }}</router-link>
          </td>
        </tr>
      </tbody>
    </v-table>
  </v-card>
</template>
