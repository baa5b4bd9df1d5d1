<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { useShortcuts } from '../kernel/shortcuts'
import { useDeeds, useMerge, useTwins, useUndo } from './queries'

const emit = defineEmits<{ said: [string] }>()
const { data: deeds, refetch } = useDeeds(true)
const { data: twins } = useTwins(true)
const { mutateAsync: undo } = useUndo()
const { mutateAsync: merge } = useMerge()

const why = (refused: unknown) => (refused instanceof Error ? refused.message : 'It did not work; try again.')

async function takeBack(id: string, says: string) {
  await undo(id).then(
    () => emit('said', `taken back: ${says}`),
    (refused: unknown) => emit('said', why(refused)),
  )
}
async function join(stays: string, goes: string) {
  await merge({ stays, goes }).then(
    (done) => emit('said', done?.says ?? ''),
    (refused: unknown) => emit('said', why(refused)),
  )
}
async function takeBackLast() {
  // asked anew: what is on screen may be older than what was just done
  const { data } = await refetch()
  const last = data?.find((d) => !d.undone)
  if (last) await takeBack(last.id, last.says)
}
useShortcuts([
  {
    keys: 'u',
    does: 'Take the last choice back',
    run: () => void takeBackLast(),
  },
])
</script>

<template>
  <section class="deeds" aria-label="What was done">
    <template v-if="twins?.length">
      <h3>May be one contact</h3>
      <p v-for="t in twins.slice(0, 8)" :key="t.one + t.other">
        {{ t.oneName }} and {{ t.otherName }}<template v-if="t.account"> of {{ t.account }}</template>
        <span class="quiet">: {{ t.why }}. </span>
        <button class="linkish" @click="join(t.one, t.other)">Merge</button>
      </p>
    </template>
    <h3>Done lately</h3>
    <p v-if="!deeds?.length" class="quiet">Nothing yet. Whatever is done here can be taken back.</p>
    <p v-for="d in deeds?.slice(0, 12)" :key="d.id" :class="{ undone: d.undone }">
      {{ d.says }} <span class="quiet">{{ d.by }}, <WhenAt :at="d.at" only="distance" /></span>
      <span v-if="d.undone" class="quiet"> taken back</span>
      <button v-else class="linkish" :aria-label="`Undo: ${d.says}`" @click="takeBack(d.id, d.says)">
        Undo
      </button>
    </p>
  </section>
</template>

<style scoped>
.deeds {
  padding: 10px 16px;
  border-top: 1px solid var(--line);
}
h3 {
  font-size: 12px;
  color: var(--quiet);
  margin-block: 8px 2px;
}
p {
  margin-block: 3px;
}
.undone {
  color: var(--quiet);
}
</style>
