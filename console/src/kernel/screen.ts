import { reactive, watch } from 'vue'

/** What a person prefers on screen; kept in this browser, and nowhere else. */
export interface Screen {
  theme: 'day' | 'night' | 'system'
}

const KEY = 'jandrel.screen'

function kept(): Partial<Screen> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Screen>
  } catch {
    return {}
  }
}

export const screen = reactive<Screen>({ theme: 'system', ...kept() })

watch(screen, (now) => localStorage.setItem(KEY, JSON.stringify(now)))

export function themeName(systemIsDark: boolean): 'day' | 'night' {
  return screen.theme === 'system' ? (systemIsDark ? 'night' : 'day') : screen.theme
}
