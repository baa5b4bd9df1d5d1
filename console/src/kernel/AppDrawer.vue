<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { mdiCogOutline, mdiLogout, mdiThemeLightDark } from '@mdi/js'
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Refused, answered, api } from '../api/client'
import { useLive } from './live'
import { groupsFor } from './navigation'
import { screen } from './screen'
import { helpIsOpen, paletteIsOpen, useShortcuts } from './shortcuts'
import { useMe } from './useMe'
import { useNeeds } from './useNeeds'

/** The pages in groups, with a count where somebody has to act. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ settings: [] }>()
const { me, error } = useMe()
const needs = useNeeds()
const router = useRouter()
const route = useRoute()
const cache = useQueryCache()
const shown = computed(() => groupsFor(me.value?.role ?? ''))

// only where somebody is signed in: before that there is nowhere to go to, and nothing to hear
useLive(computed(() => me.value !== undefined))
useShortcuts(() => [
  ...shown.value.flatMap((g) =>
    g.pages.map((p) => ({ keys: p.keys, does: p.name, run: () => void router.push(p.path) })),
  ),
  {
    keys: 'Ctrl+k',
    does: 'Find a page, record or action',
    run: () => (paletteIsOpen.value = true),
    hidden: true,
  },
  { keys: '[', does: 'Show or hide the pages', run: () => (open.value = !open.value) },
  { keys: ',', does: 'Dates, times and theme', run: () => emit('settings') },
  { keys: '?', does: 'Keyboard shortcuts', run: () => (helpIsOpen.value = !helpIsOpen.value) },
])

// with a first password, which somebody else gave, nothing can be done but choose another; without a second factor that is needed, set it up
watch(me, async (who) => {
  if (!who?.choosePassword && !who?.setUpSecondFactor) return
  await router.isReady()
  if (!who.choosePassword) {
    await router.push('/account')
    return
  }
  await router.push({ path: '/sign-in', query: { to: router.currentRoute.value.fullPath } })
})

watch(error, async (refused) => {
  if (!(refused instanceof Refused) || refused.status !== 401) return
  // before the first page is there, the route still is where nobody wanted to go
  await router.isReady()
  if (router.currentRoute.value.meta.open) return
  await router.push({ path: '/sign-in', query: { to: router.currentRoute.value.fullPath } })
})

async function signOut() {
  const there = (await answered(api.DELETE('/api/session'))) as { at: string } | undefined
  await router.push('/sign-in')
  cache.getEntries().forEach((entry) => cache.remove(entry))
  // the provider ends its session, too, and sends the browser back
  if (there) location.assign(there.at)
}

function nextTheme() {
  screen.theme = screen.theme === 'system' ? 'day' : screen.theme === 'day' ? 'night' : 'system'
}
</script>

<template>
  <v-navigation-drawer v-model="open" width="196" color="background" class="drawer" aria-label="Pages">
    <div class="brand">Jandrel</div>
    <v-list nav class="pa-0" role="group" aria-label="All pages">
      <template v-for="g in shown" :key="g.heading">
        <v-list-subheader v-if="g.heading">{{ g.heading }}</v-list-subheader>
        <v-list-item
          v-for="p in g.pages"
          :key="p.path"
          :to="p.path"
          :active="route.path === p.path || route.path.startsWith(p.path + '/')"
          :prepend-icon="p.icon"
          :title="p.name"
        >
          <template v-if="needs[p.path]" #append>
            <v-chip size="x-small" color="accent" variant="tonal" :title="`${needs[p.path]} need somebody`">{{
              needs[p.path]?.toLocaleString('en-GB')
            }}</v-chip>
          </template>
        </v-list-item>
      </template>
    </v-list>
    <template #append>
      <div v-if="me" class="who">
        <span
          >{{ me.name }}<br /><span class="quiet">{{ me.role }}</span></span
        >
        <v-btn
          :icon="mdiThemeLightDark"
          size="small"
          variant="text"
          :title="`Theme: ${screen.theme}. Change it`"
          :aria-label="`Theme: ${screen.theme}`"
          @click="nextTheme"
        />
        <v-btn
          :icon="mdiCogOutline"
          size="small"
          variant="text"
          title="Dates, times and theme (,)"
          aria-label="Dates, times and theme"
          @click="emit('settings')"
        />
        <v-btn
          :icon="mdiLogout"
          size="small"
          variant="text"
          title="Sign out"
          aria-label="Sign out"
          @click="signOut"
        />
      </div>
    </template>
  </v-navigation-drawer>
</template>

<style scoped>
.drawer {
  border-right: 1px solid var(--line);
}
.brand {
  padding: 12px 16px 8px;
  font-weight: 750;
  font-size: 17px;
}
.who {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 8px 8px 10px 16px;
  font-size: 12px;
  line-height: 16px;
}
.who > span:first-child {
  flex: 1;
  min-width: 0;
}
</style>
