<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { tell, tellRefused } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useActs, type ManyAct } from './queries'

/** Does one thing to several connections. */
const props = defineProps<{ chosen: Schemas['ConnectionInfo'][] }>()
const emit = defineEmits<{ done: [] }>()
const { mutateAsync, asyncStatus } = useActs()
const WAITING = ['needs-sign-in', 'waiting-for-consent']
const STILL = ['paused', 'disconnected', 'refused', 'waiting-for-consent']
const waiting = computed(() => props.chosen.filter((c) => WAITING.includes(c.state)))
const paused = computed(() => props.chosen.filter((c) => c.state === 'paused'))
const going = computed(() => props.chosen.filter((c) => !STILL.includes(c.state)))

async function act(act: ManyAct, of: Schemas['ConnectionInfo'][], says: string) {
  const outcomes = await mutateAsync({ connections: of.map((c) => c.id), act }).catch((refused: unknown) => {
    tellRefused(refused)
    return null
  })
  if (!outcomes) return
  const failed = outcomes.filter((o) => o.problem)
  const done = outcomes.filter((o) => !o.problem).map((o) => o.connection)
  const told = `${many(done.length, 'connection')} ${says}`
  const back = act === 'pause' ? 'resume' : act === 'resume' ? 'pause' : null
  tell(
    failed.length ? `${told}; not ${failed.map((o) => `${o.account} (${o.problem})`).join(', ')}` : told,
    back && done.length ? () => mutateAsync({ connections: done, act: back }) : undefined,
  )
  emit('done')
}
</script>

<template>
  <div class="bulk" role="toolbar" :aria-label="`Act on ${many(chosen.length, 'connection')}`">
    <b>{{ many(chosen.length, 'connection') }}</b>
    <v-btn
      v-if="going.length"
      size="small"
      variant="tonal"
      :disabled="asyncStatus === 'loading'"
      @click="act('sync', going, 'synced now')"
      >Sync {{ going.length }} now</v-btn
    >
    <v-btn
      v-if="going.length"
      size="small"
      variant="tonal"
      :disabled="asyncStatus === 'loading'"
      @click="act('pause', going, 'paused')"
      >Pause {{ going.length }}</v-btn
    >
    <v-btn
      v-if="paused.length"
      size="small"
      variant="tonal"
      :disabled="asyncStatus === 'loading'"
      @click="act('resume', paused, 'captured again')"
      >Resume {{ paused.length }}</v-btn
    >
    <v-btn
      v-if="waiting.length"
      size="small"
      variant="tonal"
      title="A mail that leads them to their own page"
      :disabled="asyncStatus === 'loading'"
      @click="act('remind', waiting, 'reminded of')"
      >Remind {{ waiting.length }} to sign in</v-btn
    >
    <v-btn size="small" variant="text" @click="emit('done')">Select none</v-btn>
  </div>
</template>

<style scoped>
.bulk {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 8px 20px;
  background: var(--picked);
}
</style>
