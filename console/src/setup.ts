import { config } from '@vue/test-utils'
import { vi } from 'vitest'
import { vuetify } from './kernel/vuetify'

// what the file before put in place of a browser's own
vi.unstubAllGlobals()

// every component test has the console's own Vuetify, with its looks and aliases
config.global.plugins = [vuetify(false)]

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
