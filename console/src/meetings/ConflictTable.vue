<script setup lang="ts">
import { ref } from 'vue'
import StateNote from '../kernel/StateNote.vue'
import WhenAt from '../kernel/WhenAt.vue'
import { useList } from '../kernel/useList'
import { useBringBack } from './queries'
import { useConflicts } from './instep'

/** What was changed on both sides at once, with both values; one step brings back what lost. */
defineProps<{ opened: string }>()
defineEmits<{ open: [item: string] }>()
const { data, error, asyncStatus, refetch } = useConflicts()
const { mutateAsync, error: failed } = useBringBack()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
async function back(id: string) {
  await mutateAsync(id).catch(() => undefined)
  await refetch()
}
</script>

<template>
  <StateNote v-if="error || !data" :error="error" :loading="asyncStatus === 'loading'" @again="refetch()" />
  <StateNote
    v-else-if="!data.length"
    empty="Nothing was changed on both sides at once"
    todo="Where that happens, both values stand here, and one click switches to the other."
  />
  <div v-else ref="list" @keydown="move">
    <StateNote v-if="failed" :error="failed" @again="refetch()" />
    <v-table class="plain">
      <thead>
        <tr>
          <th>When</th>
          <th>Meeting</th>
          <th>What</th>
          <th>Here</th>
          <th>Calendar</th>
          <th>Kept</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(c, i) in data"
          :key="c.id"
          data-row
          :tabindex="i === current ? 0 : -1"
          :class="{ picked: c.item === opened }"
          @click="((current = i), $emit('open', c.item))"
          @keydown.enter.self="$emit('open', c.item)"
        >
          <td class="nowrap"><WhenAt :at="c.at" /></td>
          <td>{{ c.title }}</td>
          <td>{{ c.field === 'deleted' ? 'deleted against changed' : c.field }}</td>
          <td :class="{ lost: c.stands !== 'here' }">{{ c.here }}</td>
          <td :class="{ lost: c.stands === 'here' }">{{ c.calendar }}</td>
          <td class="nowrap">
            {{ c.broughtBackBy ? `${c.broughtBackBy} chose the other value` : c.stands }}
          </td>
          <td class="nowrap">
            <text-btn v-if="c.canComeBack" @click.stop="back(c.id)"> Use the other value </text-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.lost {
  color: var(--quiet);
}
td {
  overflow-wrap: anywhere;
}
</style>
