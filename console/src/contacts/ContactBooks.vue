<script setup lang="ts">
import { useStanding } from './queries'

/** In whose address books a contact stands. */
const props = defineProps<{ id: string }>()
const { data } = useStanding(() => props.id)
</script>

<template>
  <section v-if="data?.length">
    <h2>
      In address books <span class="quiet">{{ data.length }}</span>
    </h2>
    <ul>
      <li v-for="b in data" :key="b.personName + b.label">
        {{ b.personName }}: {{ b.label }}
        <span class="quiet">{{ b.state }}{{ b.putThere ? ' · put there by the policy' : '' }}</span>
      </li>
    </ul>
  </section>
</template>
