import { createVuetify } from 'vuetify'
import { VBtn } from 'vuetify/components/VBtn'
import { VProgressCircular } from 'vuetify/components/VProgressCircular'
import { VSelect } from 'vuetify/components/VSelect'
import { VTextField } from 'vuetify/components/VTextField'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { focusFirst } from './focusFirst'
import { themeName } from './screen'
import { day, night } from './theme'

const field = {
  density: 'compact',
  variant: 'outlined',
  hideDetails: 'auto',
  rounded: '6px',
  bgColor: 'surface',
} as const
const word = { density: 'compact', variant: 'underlined', hideDetails: true, class: 'word' } as const
const box = { density: 'compact', color: 'primary', hideDetails: true } as const

// a button that is busy draws one without a name (WCAG 2.2, 4.1.2)
Object.assign(VProgressCircular, {
  mounted(this: { $el: HTMLElement }) {
    if (!this.$el.hasAttribute('aria-label')) this.$el.setAttribute('aria-label', 'Loading')
  },
})

/** The look of every component is set here, and on no page. */
export function vuetify(systemIsDark: boolean) {
  return createVuetify({
    directives: { Focus: focusFirst },
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: { defaultTheme: themeName(systemIsDark), themes: { day, night } },
    // one component, one more look: a button that reads like a link, and fields within a sentence
    aliases: { TextBtn: VBtn, WordSelect: VSelect, WordField: VTextField },
    defaults: {
      VTextField: field,
      VSelect: field,
      VAutocomplete: field,
      VTextarea: field,
      VFileInput: field,
      WordSelect: word,
      WordField: word,
      VBtn: { rounded: '6px', density: 'comfortable' },
      TextBtn: { variant: 'plain', density: 'compact', size: 'small', class: 'linkish', rounded: '6px' },
      VBtnToggle: {
        density: 'compact',
        variant: 'outlined',
        divided: true,
        rounded: '6px',
        color: 'primary',
      },
      VChip: { size: 'small', rounded: '6px', label: true },
      VCard: { variant: 'outlined', rounded: '10px' },
      VList: { density: 'compact', bgColor: 'transparent' },
      VCheckbox: box,
      VRadioGroup: box,
      VTable: { density: 'compact' },
      VTooltip: { openDelay: 300 },
    },
  })
}

declare module 'vue' {
  interface GlobalComponents {
    TextBtn: typeof VBtn
    WordSelect: typeof VSelect
    WordField: typeof VTextField
  }
}
