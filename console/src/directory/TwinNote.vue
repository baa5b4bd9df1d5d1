<script setup lang="ts">
import { computed } from 'vue'
import { tell, tellRefused } from '../kernel/snackbar'
import { useMerge, useTellApart, useTwins, useUndo } from '../triage/queries'
import { useDirectoryChanged, withDecisions } from './queries'

/** Contacts that may be the same person as this one, or accounts that may be the same customer, with what speaks for it. */
const props = defineProps<{ id: string; isAccount: boolean }>()
const { data } = useTwins(true, () => props.id)
const twins = computed(() =>
  (data.value ?? []).map((t) => ({
    id: t.one === props.id ? t.other : t.one,
    name: t.one === props.id ? t.otherName : t.oneName,
    about: [t.one === props.id ? t.otherAddress : t.oneAddress, t.account, t.why].filter(Boolean).join(' · '),
  })),
)
const { mutateAsync: merge } = useMerge()
const { mutateAsync: tellApart } = useTellApart()
const { mutateAsync: undo } = useUndo()
const changed = useDirectoryChanged()

/** This one stays. */
async function take(id: string) {
  await merge({ stays: props.id, goes: id }).then((done) => {
    changed()
    if (done)
      tell(withDecisions(done.says, done.items), async () => {
        await undo(done.deed)
        changed()
      })
  }, tellRefused)
}
async function apart(id: string) {
  await tellApart({ one: props.id, other: id }).then(
    (done) => done && tell(done.says, () => undo(done.deed)),
    tellRefused,
  )
}
</script>

<template>
  <section v-if="twins.length" class="twins" aria-labelledby="twins-title">
    <h2 id="twins-title">May be the same {{ isAccount ? 'customer' : 'person' }}</h2>
    <p v-for="t in twins" :key="t.id">
      <router-link :to="`/timeline/${t.id}?view=facts`">{{ t.name }}</router-link>
      <span class="quiet"> {{ t.about }}</span>
      <text-btn
        :aria-label="`Merge ${t.name} into this ${isAccount ? 'account' : 'contact'}`"
        @click="take(t.id)"
        >Merge into this one</text-btn
      >
      <text-btn
        :aria-label="`${t.name} is another ${isAccount ? 'customer' : 'person'}`"
        @click="apart(t.id)"
        >{{ isAccount ? 'Two customers' : 'Two people' }}</text-btn
      >
    </p>
  </section>
</template>

<style scoped>
.twins {
  border-left: 3px solid rgb(var(--v-theme-waiting));
  padding-left: 10px;
}
p {
  margin-block: 3px;
}
</style>
