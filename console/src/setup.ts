import { config } from '@vue/test-utils'
import { vuetify } from './kernel/vuetify'

// every component test has the console's own Vuetify, with its looks and aliases
config.global.plugins.push(vuetify(false))

// what overlays measure, which happy-dom does not have
globalThis.visualViewport ??= Object.assign(new EventTarget(), {
  width: 1280,
  height: 800,
  offsetLeft: 0,
  offsetTop: 0,
  pageLeft: 0,
  pageTop: 0,
  scale: 1,
}) as unknown as VisualViewport
