<script setup lang="ts">
import { computed } from 'vue'
import { useCoverage } from './coverageQueries'
import type { EditedRules } from './rules'

/** Whom a policy covers, and who reads what it logs. */
const rules = defineModel<EditedRules>({ required: true })
const { data: people } = useCoverage()
const each = (of: 'team' | 'role') => [...new Set(people.value?.map((p) => p[of]).filter(Boolean))].sort()
const who = computed({
  get: () => {
    const a = rules.value.audience
    if (a.everyone) return 'everyone'
    if (a.teams.length === 1 && !a.roles.length && !a.people.length) return `team ${a.teams[0]}`
    if (a.roles.length === 1 && !a.teams.length && !a.people.length) return `role ${a.roles[0]}`
    return a.teams.length + a.roles.length + a.people.length ? 'several' : 'nobody'
  },
  set: (words: string) => {
    if (words === 'several') return
    const [kind, ...name] = words.split(' ')
    rules.value.audience = {
      everyone: words === 'everyone',
      people: [],
      teams: kind === 'team' ? [name.join(' ')] : [],
      roles: kind === 'role' ? [name.join(' ')] : [],
    }
  },
})
const several = computed(() => {
  const a = rules.value.audience
  return [...a.teams.map((t) => `team ${t}`), ...a.roles.map((r) => `role ${r}`), ...a.people].join(', ')
})
const audiences = computed(() => [
  { title: 'everyone', value: 'everyone' },
  ...each('team').map((t) => ({ title: `the team ${t}`, value: `team ${t}` })),
  ...each('role').map((r) => ({ title: `everyone in the role ${r}`, value: `role ${r}` })),
  { title: 'nobody yet', value: 'nobody' },
  ...(who.value === 'several' ? [{ title: several.value, value: 'several' }] : []),
])
const READERS = [
  { title: 'everyone who signs in', value: 'everyone' },
  { title: 'the owner’s team and the participants', value: 'team' },
  { title: 'the participants', value: 'those-on-it' },
  { title: 'the owner alone', value: 'owner' },
]
</script>

<template>
  <p>
    The policy <word-field v-model="rules.name" class="name" aria-label="Name" maxlength="100" /> covers
    <word-select v-model="who" aria-label="Whom it covers" :items="audiences" />. What is logged is read in
    full by <word-select v-model="rules.sharing" aria-label="Who reads it" :items="READERS" />{{
      rules.sharing === 'everyone' ? '.' : '; everybody else sees only when it is and whose.'
    }}
  </p>
</template>
