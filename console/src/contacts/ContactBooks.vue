<script setup lang="ts">
import { ref, watch } from 'vue'
import ContactMore from './ContactMore.vue'
import { useStanding } from './queries'

/** In whose address books a contact stands, and what is known of it that the directory has no column for. */
const props = defineProps<{ id: string; mayChange: boolean }>()
const { data } = useStanding(() => props.id)
const editing = ref(false)
watch(
  () => props.id,
  () => (editing.value = false),
)
</script>

<template>
  <section v-if="data?.details && (mayChange || data.facts.length)">
    <h2>
      Details
      <text-btn v-if="mayChange && !editing" title="Change what is known besides" @click="editing = true"
        >Edit</text-btn
      >
    </h2>
    <ContactMore v-if="editing" :id="id" :more="data.details" @done="editing = false" />
    <p v-else-if="!data.facts.length" class="quiet">
      No unit, role, postal or web address, birthday, tag or note is known.
    </p>
    <dl v-else>
      <template v-for="f in data.facts" :key="f.field">
        <dt>{{ f.field }}</dt>
        <dd>{{ f.words }}</dd>
      </template>
    </dl>
  </section>
  <section v-if="data?.books.length">
    <h2>
      In address books <span class="quiet">{{ data.books.length }}</span>
    </h2>
    <ul>
      <li v-for="b in data.books" :key="b.personName + b.label">
        {{ b.personName }}: {{ b.label }}
        <span class="quiet">{{ b.state }}{{ b.putThere ? ' · put there by the policy' : '' }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 2px 12px;
  margin: 6px 0 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
</style>
