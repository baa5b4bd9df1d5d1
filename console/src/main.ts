import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import 'vuetify/styles'
import './style.css'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createVuetify } from 'vuetify'
import App from './App.vue'
import { router } from './router'
import { themeName } from './kernel/screen'
import { day, night } from './kernel/theme'

const dark = window.matchMedia('(prefers-color-scheme: dark)')
const vuetify = createVuetify({
  theme: { defaultTheme: themeName(dark.matches), themes: { day, night } },
  defaults: { VBtn: { rounded: 'sm', density: 'comfortable' }, VCard: { rounded: 'sm' } },
})

createApp(App).use(createPinia()).use(PiniaColada).use(router).use(vuetify).mount('#app')
