import { config } from '@vue/test-utils'
import { vuetify } from './kernel/vuetify'

// every component test has the console's own Vuetify, with its looks and aliases
config.global.plugins.push(vuetify(false))
