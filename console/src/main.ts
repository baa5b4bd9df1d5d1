import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import 'vuetify/styles'
import './style.css'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import App from './App.vue'
import { router } from './router'
import { themeName } from './kernel/screen'
import { day, night } from './kernel/theme'

const dark = window.matchMedia('(prefers-color-scheme: dark)')
const field = {
  density: 'compact',
  variant: 'outlined',
  hideDetails: 'auto',
  rounded: 'md',
  bgColor: 'surface',
} as const
const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: { defaultTheme: themeName(dark.matches), themes: { day, night } },
  // the look of every component is set here, and on no page
  defaults: {
    VTextField: field,
    VSelect: field,
    VAutocomplete: field,
    VCombobox: field,
    VTextarea: field,
    VBtn: { rounded: 'md', density: 'comfortable' },
    VChip: { size: 'small', rounded: 'md', label: true },
    VCard: { variant: 'outlined', rounded: 'lg' },
    VList: { density: 'compact', bgColor: 'transparent' },
    VCheckbox: { density: 'compact', color: 'primary', hideDetails: true },
    VSwitch: { density: 'compact', color: 'primary', hideDetails: true },
    VTooltip: { openDelay: 300 },
  },
})

createApp(App).use(createPinia()).use(PiniaColada).use(router).use(vuetify).mount('#app')
