<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Refused, answered, api } from '../api/client'
import { pages } from '../router'
import { screen } from './screen'
import { helpIsOpen } from './shortcuts'
import { useMe } from './useMe'

const { me, error, isAdministrator, seesAll } = useMe()
const router = useRouter()
const route = useRoute()
const cache = useQueryCache()
const shown = computed(() =>
  pages.filter((p) =>
    p.path === '/policy'
      ? seesAll.value
      : p.path === '/journal'
        ? ['administrator', 'auditor'].includes(me.value?.role ?? '')
        : p.path === '/directory'
          ? isAdministrator.value
          : true,
  ),
)

watch(error, async (refused) => {
  if (!(refused instanceof Refused) || refused.status !== 401) return
  // before the first page is there, the route still is where nobody wanted to go
  await router.isReady()
  if (router.currentRoute.value.meta.open) return
  await router.push({ path: '/sign-in', query: { to: router.currentRoute.value.fullPath } })
})

async function signOut() {
  await answered(api.DELETE('/api/session'))
  await router.push('/sign-in')
  cache.getEntries().forEach((entry) => cache.remove(entry))
}

function nextTheme() {
  screen.theme = screen.theme === 'system' ? 'day' : screen.theme === 'day' ? 'night' : 'system'
}
</script>

<template>
  <nav class="rail" aria-label="Pages">
    <div class="brand">Jandrel</div>
    <router-link
      v-for="p in shown"
      :key="p.path"
      :to="p.path"
      :class="{ 'router-link-active': route.path.startsWith(p.path + '/') }"
      >{{ p.name }}</router-link
    >
    <div class="foot">
      <button class="linkish" title="Change between day, night and the system's own" @click="nextTheme">
        Theme: {{ screen.theme }}
      </button>
      <button class="linkish" @click="helpIsOpen = true">Keys <kbd>?</kbd></button>
      <template v-if="me">
        <span :title="me.role"
          >{{ me.name }}<br /><span class="quiet">{{ me.role }}</span></span
        >
        <button class="linkish" @click="signOut">Sign out</button>
      </template>
    </div>
  </nav>
</template>
