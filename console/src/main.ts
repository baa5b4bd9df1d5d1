import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import 'vuetify/styles/core'
import './style.css'
import { PiniaColada } from '@pinia/colada'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { vuetify } from './kernel/vuetify'
import { router } from './router'

const dark = window.matchMedia('(prefers-color-scheme: dark)')
createApp(App).use(createPinia()).use(PiniaColada).use(router).use(vuetify(dark.matches)).mount('#app')
