<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useDisplay, useTheme } from 'vuetify'
import AppDrawer from './kernel/AppDrawer.vue'
import CommandPalette from './kernel/CommandPalette.vue'
import ShortcutHelp from './kernel/ShortcutHelp.vue'
import TopBar from './kernel/TopBar.vue'
import { groups } from './kernel/navigation'
import { screen, themeName } from './kernel/screen'
import { usePageShortcuts, useShortcuts } from './kernel/shortcuts'

const route = useRoute()
const theme = useTheme()
const main = ref<HTMLElement | null>(null)
const { mobile } = useDisplay()
// on a narrow screen it slides over the page, and is shut to begin with
const drawer = ref(!mobile.value)
// until the first page is there, nobody knows whether it has a rail
const open = computed(() => route.meta.open === true || route.matched.length === 0)
const dark = window.matchMedia('(prefers-color-scheme: dark)')

function applyTheme() {
  theme.change(themeName(dark.matches))
}
dark.addEventListener('change', applyTheme)
watch(screen, applyTheme)
usePageShortcuts(() => groups.flatMap((g) => g.pages))
useShortcuts([{ keys: '[', does: 'Show or hide the pages', run: () => (drawer.value = !drawer.value) }])

// a new page takes the focus along, so that a screen reader begins there
watch(
  () => route.matched[0]?.path,
  () => void nextTick(() => main.value?.focus()),
)
</script>

<template>
  <v-app>
    <a class="skip" href="#main">To the content</a>
    <AppDrawer v-if="!open" v-model="drawer" />
    <v-main tag="div" class="ground">
      <TopBar v-if="!open" @menu="drawer = !drawer" />
      <main id="main" ref="main" tabindex="-1">
        <router-view />
      </main>
    </v-main>
    <CommandPalette v-if="!open" />
    <ShortcutHelp />
  </v-app>
</template>
