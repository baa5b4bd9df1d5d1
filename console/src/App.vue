<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useDisplay, useTheme } from 'vuetify'
import AppDrawer from './kernel/AppDrawer.vue'
import CommandPalette from './kernel/CommandPalette.vue'
import SnackBar from './kernel/SnackBar.vue'
import ShortcutHelp from './kernel/ShortcutHelp.vue'
import TopBar from './kernel/TopBar.vue'
import NoticeBell from './notices/NoticeBell.vue'
import { screen, themeName } from './kernel/screen'
import { useShortcutKeys } from './kernel/shortcuts'

// hundreds of time zones, for which no page waits
const DisplaySettings = defineAsyncComponent(() => import('./kernel/DisplaySettings.vue'))
const route = useRoute()
const theme = useTheme()
const main = ref<HTMLElement | null>(null)
const { mobile } = useDisplay()
// on a narrow screen it slides over the page, and is shut to begin with
const drawer = ref(!mobile.value)
// until the first page is there, nobody knows whether pages stand beside it: nothing is drawn that would move then
const begun = computed(() => route.matched.length > 0)
const open = computed(() => route.meta.open === true || !begun.value)
const dark = window.matchMedia('(prefers-color-scheme: dark)')

function applyTheme() {
  theme.change(themeName(dark.matches))
}
dark.addEventListener('change', applyTheme)
watch(screen, applyTheme)
const settings = ref(false)
useShortcutKeys()

// a new page takes the focus along, so that a screen reader begins there
watch(
  () => route.matched[0]?.path,
  () => void nextTick(() => main.value?.focus()),
)
</script>

<template>
  <v-app>
    <a class="skip" href="#main">To the content</a>
    <AppDrawer v-if="!open" v-model="drawer" @settings="settings = true" />
    <v-main v-if="begun" tag="div" class="ground">
      <TopBar v-if="!open" @menu="drawer = !drawer"><NoticeBell /></TopBar>
      <main id="main" ref="main" tabindex="-1">
        <router-view />
      </main>
    </v-main>
    <CommandPalette v-if="!open" />
    <ShortcutHelp />
    <DisplaySettings v-if="settings" v-model="settings" />
    <SnackBar v-if="!open" />
  </v-app>
</template>
