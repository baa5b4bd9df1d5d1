import { reactive, watch } from 'vue'

/** What a person prefers on screen; kept in this browser, and nowhere else. */
export interface Screen {
  theme: 'day' | 'night' | 'system'
  /** The order of a date’s parts. */
  dates: 'day-month' | 'month-day' | 'year-month'
  hours: 12 | 24
  /** 0 for Sunday, 1 for Monday, 6 for Saturday. */
  firstDay: 0 | 1 | 6
  /** An IANA name; empty for this computer’s. */
  zone: string
}

const KEY = 'jandrel.screen'
const usual: Screen = { theme: 'system', dates: 'day-month', hours: 24, firstDay: 1, zone: '' }

function kept(): Partial<Screen> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Screen>
  } catch {
    return {}
  }
}

export const screen = reactive<Screen>({ ...usual, ...kept() })

watch(screen, (now) => localStorage.setItem(KEY, JSON.stringify(now)))

export function themeName(systemIsDark: boolean): 'day' | 'night' {
  return screen.theme === 'system' ? (systemIsDark ? 'night' : 'day') : screen.theme
}
