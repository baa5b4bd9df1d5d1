<script setup lang="ts">
import WhenAt from '../kernel/WhenAt.vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useShortcuts } from '../kernel/shortcuts'
import { deedsNow, useDeeds, useMerge, useTellApart, useTwins, useUndo } from './queries'

const { data: deeds } = useDeeds(true)
const { data: twins } = useTwins(true)
const { mutateAsync: undo } = useUndo()
const { mutateAsync: merge } = useMerge()
const { mutateAsync: tellApart } = useTellApart()

async function revert(id: string, says: string) {
  await undo(id).then(() => tell(`Undone: ${says}`), tellRefused)
}
async function join(stays: string, goes: string) {
  await merge({ stays, goes }).then((done) => done && tell(done.says, () => undo(done.deed)), tellRefused)
}
async function apart(one: string, other: string) {
  await tellApart({ one, other }).then((done) => done && tell(done.says, () => undo(done.deed)), tellRefused)
}
async function undoLast() {
  // asked by itself: what is on screen, and what an overtaken question answers, may be older than what was just done
  await deedsNow().then((now) => {
    const last = now.find((d) => !d.undone)
    return last && revert(last.id, last.says)
  }, tellRefused)
}
useShortcuts([
  {
    keys: 'u',
    does: 'Undo the last choice',
    run: () => void undoLast(),
  },
])
</script>

<template>
  <section class="deeds" aria-label="What was done">
    <template v-if="twins?.length">
      <h2>May be the same record</h2>
      <p v-for="t in twins.slice(0, 8)" :key="t.one + t.other">
        {{ t.oneName }} <span class="quiet">{{ t.oneAddress }}</span> and {{ t.otherName }}
        <span class="quiet">{{ t.otherAddress }}</span><template v-if="t.account">
          of {{ t.account }}</template
        >
        <span class="quiet">: {{ t.why }}. </span>
        <text-btn @click="join(t.one, t.other)">Merge</text-btn>
        <text-btn @click="apart(t.one, t.other)">{{
          t.kind === 'account' ? 'Two customers' : 'Two people'
        }}</text-btn>
      </p>
      <p v-if="twins.length > 8" class="quiet">And {{ twins.length - 8 }} more, which follow.</p>
    </template>
    <h2>Done lately</h2>
    <p v-if="!deeds?.length" class="quiet">Nothing yet. Whatever is done here can be undone.</p>
    <p v-for="d in deeds?.slice(0, 12)" :key="d.id" :class="{ undone: d.undone }">
      {{ d.says }} <span class="quiet">{{ d.by }}, <WhenAt :at="d.at" only="distance" /></span>
      <span v-if="d.undone" class="quiet"> undone</span>
      <text-btn v-else :aria-label="`Undo: ${d.says}`" @click="revert(d.id, d.says)"> Undo </text-btn>
    </p>
  </section>
</template>

<style scoped>
.deeds {
  padding: 10px 16px;
  border-top: 1px solid var(--line);
}
h2 {
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
