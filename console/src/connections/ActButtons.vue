<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { tell, tellRefused } from '../kernel/snackbar'
import { many } from '../kernel/times'
import { useActs, type ManyAct } from './queries'

/** Each thing that can be done to some of these connections, and to how many. */
const props = defineProps<{ connections: Schemas['ConnectionInfo'][] }>()
const emit = defineEmits<{ done: [] }>()
const { mutateAsync, asyncStatus } = useActs()
const STILL = ['paused', 'disconnected', 'refused', 'waiting-for-consent']
const isGoing = (state: string) => !STILL.includes(state)
const ACTS = [
  { act: 'sync', does: 'Sync', said: 'synced now', fits: isGoing },
  { act: 'pause', does: 'Pause', said: 'paused', fits: isGoing, back: 'resume' },
  {
    act: 'resume',
    does: 'Resume',
    said: 'captured again',
    fits: (state: string) => state === 'paused',
    back: 'pause',
  },
  {
    act: 'remind',
    does: 'Remind',
    said: 'reminded of',
    fits: (state: string) => state === 'needs-sign-in' || state === 'waiting-for-consent',
  },
] as const
interface Offered {
  act: ManyAct
  does: string
  said: string
  back?: ManyAct
  of: string[]
}
const offered = computed<Offered[]>(() =>
  ACTS.map((a) => ({
    ...a,
    of: props.connections.filter((c) => a.fits(c.state)).map((c) => c.id),
  })).filter((a) => a.of.length),
)

async function go({ act, said, back, of }: Offered) {
  await mutateAsync({ connections: of, act }).then((outcomes) => {
    const failed = outcomes.filter((o) => o.problem)
    const done = outcomes.filter((o) => !o.problem).map((o) => o.connection)
    const told = `${many(done.length, 'connection')} ${said}`
    tell(
      failed.length ? `${told}; not ${failed.map((o) => `${o.account} (${o.problem})`).join(', ')}` : told,
      back && done.length ? () => mutateAsync({ connections: done, act: back }) : undefined,
    )
    emit('done')
  }, tellRefused)
}
</script>

<template>
  <v-btn
    v-for="a in offered"
    :key="a.act"
    size="small"
    variant="tonal"
    :title="a.act === 'remind' ? 'A mail that leads them to their own page' : undefined"
    :disabled="asyncStatus === 'loading'"
    @click="go(a)"
    >{{ a.does }} {{ a.of.length }}{{ a.act === 'remind' ? ' to sign in' : '' }}</v-btn
  >
</template>
