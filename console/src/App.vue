<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useTheme } from 'vuetify'
import AppRail from './kernel/AppRail.vue'
import ShortcutHelp from './kernel/ShortcutHelp.vue'
import { screen, themeName } from './kernel/screen'
import { usePageShortcuts } from './kernel/shortcuts'
import { pages } from './router'

const route = useRoute()
const theme = useTheme()
const main = ref<HTMLElement | null>(null)
// until the first page is there, nobody knows whether it has a rail
const open = computed(() => route.meta.open === true || route.matched.length === 0)
const dark = window.matchMedia('(prefers-color-scheme: dark)')

function applyTheme() {
  theme.change(themeName(dark.matches))
}
dark.addEventListener('change', applyTheme)
watch(screen, applyTheme)
usePageShortcuts(pages)

// a new page takes the focus along, so that a screen reader begins there
watch(
  () => route.matched[0]?.path,
  () => void nextTick(() => main.value?.focus()),
)
</script>

<template>
  <v-app>
    <a class="skip" href="#main">To the content</a>
    <div :class="{ shell: !open }">
      <AppRail v-if="!open" />
      <main id="main" ref="main" tabindex="-1">
        <router-view />
      </main>
    </div>
    <ShortcutHelp />
  </v-app>
</template>
