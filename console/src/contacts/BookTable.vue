<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { useList } from '../kernel/useList'

/** Each address book that is looked at, and how it stands with the contacts. */
const props = defineProps<{ books: Schemas['BookInfo'][]; opened: number }>()
defineEmits<{
  open: [source: number]
  held: [source: { id: number; label: string; held: string }]
  settle: []
  removed: []
}>()
const list = ref<HTMLElement | null>(null)
const { current, move } = useList(list)
/** Where somebody has several, it says which of them contacts go to. */
const several = computed(() => {
  const people = props.books.map((b) => b.person)
  return new Set(people.filter((p, i) => people.indexOf(p) !== i))
})
const WAYS: Record<string, string> = { none: 'off', in: 'in only', out: 'out only', both: 'both ways' }
</script>

<template>
  <div ref="list" @keydown="move">
    <v-table class="plain">
      <thead>
        <tr>
          <th>Person</th>
          <th>Book</th>
          <th v-if="!opened">Direction</th>
          <th>State</th>
          <th v-if="!opened">Last run</th>
          <th class="num" title="The same here and there">In step</th>
          <th class="num" title="Waiting to be written or taken in">Pending</th>
          <th class="num" title="Cards that fit several contacts">To settle</th>
          <th v-if="!opened" class="num" title="Removed on one side: somebody says what becomes of the other">
            Removed
          </th>
          <th v-if="!opened" class="num" title="Private cards: nothing of them is kept">Private</th>
          <th v-if="!opened" class="num" title="Left out for other reasons, or unreadable">Left out</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(b, i) in books"
          :key="b.source"
          data-row
          :tabindex="i === current ? 0 : -1"
          :class="{ picked: b.source === opened }"
          @click="((current = i), $emit('open', b.source))"
          @keydown.enter.self="$emit('open', b.source)"
        >
          <td class="nowrap">{{ b.personName }}</td>
          <td>
            {{ b.label }}
            <span v-if="b.outgoing && several.has(b.person)" class="quiet">contacts go there</span>
          </td>
          <td v-if="!opened" class="nowrap">{{ WAYS[b.direction] }}</td>
          <td class="nowrap">
            <text-btn
              v-if="b.held && b.mayChange"
              class="warn"
              @click.stop="$emit('held', { id: b.source, label: b.label, held: 'Much was removed' })"
            >
              held back: review
            </text-btn>
            <b v-else-if="b.waits" class="warn">waits for approval</b>
            <span v-else :class="{ warn: b.held || b.state !== 'capturing' }">{{
              b.held ? 'held back' : b.state
            }}</span>
          </td>
          <td v-if="!opened" class="nowrap">
            <WhenAt v-if="b.lastRun" :at="b.lastRun" only="distance" /><template v-else>never</template>
          </td>
          <td class="num">{{ b.alike }}</td>
          <td class="num" :class="{ warn: b.stuck }">
            {{ b.pending }}<template v-if="b.stuck">, {{ b.stuck }} stuck</template>
          </td>
          <td class="num">
            <text-btn v-if="b.open" @click.stop="$emit('settle')">{{ b.open }}</text-btn>
            <template v-else>0</template>
          </td>
          <td v-if="!opened" class="num">
            <text-btn v-if="b.asked" @click.stop="$emit('removed')">{{ b.asked }}</text-btn>
            <template v-else>0</template>
          </td>
          <td v-if="!opened" class="num">{{ b.privately }}</td>
          <td v-if="!opened" class="num">{{ b.leftOut + b.unreadable }}</td>
        </tr>
      </tbody>
    </v-table>
  </div>
</template>

<style scoped>
.warn {
  color: rgb(var(--v-theme-error));
}
</style>
