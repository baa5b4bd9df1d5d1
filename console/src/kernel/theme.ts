import type { ThemeDefinition } from 'vuetify'

/*
 * Colours are named by duty. Contrast kept (WCAG 2.2): on-* and ink on their ground 7:1 at least, quiet 4.5:1,
 * lines and marks 3:1.
 */
export const day: ThemeDefinition = {
  dark: false,
  colors: {
    background: '#f6f2e9',
    surface: '#fdfbf6',
    'surface-raised': '#ffffff',
    'on-background': '#14302a',
    'on-surface': '#14302a',
    primary: '#1d5247',
    'on-primary': '#ffffff',
    secondary: '#4d635d',
    accent: '#8f5a08',
    error: '#a3271b',
    'on-error': '#ffffff',
    quiet: '#56685f',
    line: '#d9d2c2',
    picked: '#ece4d2',
    logged: '#1d6b4f',
    waiting: '#8f5a08',
    'left-out': '#56685f',
    unreadable: '#a3271b',
  },
}

export const night: ThemeDefinition = {
  dark: true,
  colors: {
    background: '#0e1c19',
    surface: '#132521',
    'surface-raised': '#1a302b',
    'on-background': '#e9e5da',
    'on-surface': '#e9e5da',
    primary: '#8fcab7',
    'on-primary': '#0e1c19',
    secondary: '#a3b5ae',
    accent: '#e3ae57',
    error: '#f19a8e',
    'on-error': '#2a0a06',
    quiet: '#a3b5ae',
    line: '#2c443e',
    picked: '#21403a',
    logged: '#86d2b0',
    waiting: '#e3ae57',
    'left-out': '#a3b5ae',
    unreadable: '#f19a8e',
  },
}
