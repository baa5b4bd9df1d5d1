<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import WhenAt from '../kernel/WhenAt.vue'
import { many } from '../kernel/times'

const props = defineProps<{ domains: Schemas['DomainInfo'][]; ticked: string[] }>()
const current = defineModel<number>('current', { required: true })
const emit = defineEmits<{ tick: [string]; tickDomain: [Schemas['DomainInfo']] }>()
const table = ref<{ $el: HTMLElement } | null>(null)

function index(address: string): number {
  return props.domains.flatMap((d) => d.strangers).findIndex((s) => s.address === address)
}
function move(event: KeyboardEvent) {
  const step = { ArrowDown: 1, j: 1, ArrowUp: -1, k: -1 }[event.key]
  const all = [...(table.value?.$el.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
  if ((step === undefined && event.key !== 'Home' && event.key !== 'End') || !all.length) return
  event.preventDefault()
  const to = event.key === 'Home' ? 0 : event.key === 'End' ? all.length - 1 : current.value + (step ?? 0)
  current.value = Math.max(0, Math.min(all.length - 1, to))
}
function focus() {
  const all = [...(table.value?.$el.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
  all[Math.min(current.value, all.length - 1)]?.focus()
}
watch(current, () => void nextTick(focus))
// a row that is settled goes, and must not take the keys along
watch(
  () => props.domains,
  async () => {
    await nextTick()
    if (document.activeElement === document.body) focus()
  },
)
defineExpose({ focus })

function traffic(s: Schemas['StrangerInfo']): string {
  return [
    s.in ? `${s.in} in` : '',
    s.out ? `${s.out} out` : '',
    s.meetings ? many(s.meetings, 'meeting') : '',
    s.beside ? `${s.beside} beside` : '',
  ]
    .filter(Boolean)
    .join(', ')
}
</script>

<template>
  <v-table ref="table" class="plain" aria-label="Strangers" @keydown="move">
    <thead>
      <tr>
        <th scope="col">Who</th>
        <th scope="col">Seen</th>
        <th scope="col" class="num" title="how many of our people are in touch with them">Of us</th>
        <th scope="col" class="num">Last</th>
        <th scope="col">Likely</th>
      </tr>
    </thead>
    <tbody v-for="d in domains" :key="d.domain">
      <tr class="domain">
        <td colspan="5">
          <v-checkbox
            class="tick"
            :model-value="d.strangers.every((s) => ticked.includes(s.address))"
            @update:model-value="emit('tickDomain', d)"
          >
            <template #label
              ><b>{{ d.domain }}</b></template
            >
          </v-checkbox>
          <span class="quiet">
            {{ many(d.strangers.length, 'person', 'people') }}, {{ many(d.items, 'item')
            }}{{ d.waiting ? `, ${d.waiting} on no timeline` : ''
            }}{{ d.freeMail ? ' · public mail provider' : '' }}
          </span>
        </td>
      </tr>
      <tr
        v-for="s in d.strangers"
        :key="s.address"
        data-row
        :tabindex="index(s.address) === current ? 0 : -1"
        :class="{ picked: index(s.address) === current }"
        :aria-selected="ticked.includes(s.address)"
        @click="current = index(s.address)"
        @focus="current = index(s.address)"
        @keydown.space.prevent="emit('tick', s.address)"
      >
        <td>
          <v-checkbox
            class="tick"
            tabindex="-1"
            :aria-label="`Choose ${s.address}`"
            :model-value="ticked.includes(s.address)"
            @click.stop
            @update:model-value="emit('tick', s.address)"
          />
          <span class="who">
            <span>{{ s.name || s.address }}</span>
            <span v-if="s.name" class="quiet address">{{ s.address }}</span>
          </span>
        </td>
        <td class="nowrap">
          {{ traffic(s) }}
          <span v-if="s.twoWay" class="both" title="they write and are written to">two-way</span>
          <span v-if="s.bulk >= 60" class="quiet" title="writes to many and is never answered"
            >bulk {{ s.bulk }}</span
          >
        </td>
        <td class="num">{{ s.people }}</td>
        <td class="num"><WhenAt :at="s.last" only="distance" /></td>
        <td>
          <span v-for="l in s.likely.slice(0, 2)" :key="l.id" class="likely" :title="l.why">{{
            l.name
          }}</span>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.domain td {
  background: color-mix(in srgb, var(--ground) 60%, var(--picked));
  padding-block: 4px;
}
.tick {
  display: inline-grid;
  width: auto;
  vertical-align: middle;
  margin-right: 10px;
}
td:first-child {
  white-space: nowrap;
}
.who {
  display: inline-grid;
  vertical-align: top;
  margin-left: 8px;
}
.address {
  font-size: 12px;
  margin-left: 0;
}
.both {
  margin-left: 6px;
  padding: 0 5px;
  border: 1px solid var(--line-strong, currentColor);
  border-radius: 2px;
  font-size: 12px;
}
.likely {
  display: block;
}
</style>
