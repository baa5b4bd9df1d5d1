<script setup lang="ts">
import type { Schemas } from '../api/client'
import { many } from '../kernel/times'

const props = defineProps<{ policies: Schemas['PolicyInfo'][]; picked: string; mayChange: boolean }>()
const emit = defineEmits<{ pick: [id: string]; order: [ids: string[]] }>()

function up(at: number) {
  const ids = props.policies.filter((p) => !p.archived).map((p) => p.id)
  const [moved] = ids.splice(at, 1)
  if (moved) ids.splice(at - 1, 0, moved)
  emit('order', ids)
}
</script>

<template>
  <ol class="policies" aria-label="Policies in their order">
    <li
      v-for="(p, i) in policies"
      :key="p.id"
      :class="{ picked: p.id === picked, off: !p.enabled || p.archived }"
    >
      <v-btn variant="text" class="pick" :aria-current="p.id === picked" @click="$emit('pick', p.id)">
        <span class="place">{{ p.archived ? '–' : i + 1 }}</span>
        <span>
          <b>{{ p.rules.name }}</b>
          <span class="quiet line">covers {{ p.covers }}</span>
          <span class="quiet line"
            >{{ p.archived ? 'archived' : p.enabled ? 'on' : 'off' }},
            {{ many(p.people, 'person', 'people') }}</span
          >
        </span>
      </v-btn>
      <text-btn
        v-if="mayChange && i > 0 && !p.archived"
        :aria-label="`Move ${p.rules.name} up`"
        title="Move up: it then counts before the one above"
        @click="up(i)"
      >
        ↑
      </text-btn>
    </li>
  </ol>
</template>

<style scoped>
.policies {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  border-bottom: 1px solid var(--line);
  padding: 8px 12px;
}
li.picked {
  box-shadow: inset 3px 0 var(--accent);
}
li.off b {
  font-weight: 400;
}
.pick {
  height: auto;
  padding: 2px 4px;
  flex: 1;
  min-width: 0;
  justify-content: start;
  font-weight: 400;
}
.pick :deep(.v-btn__content) {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr);
  text-align: left;
  white-space: normal;
  line-height: 1.35;
}
.place {
  color: var(--quiet);
  font-variant-numeric: tabular-nums;
}
.line.quiet {
  display: block;
  margin-left: 0;
  font-size: 13px;
}
</style>
