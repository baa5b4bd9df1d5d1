import { nextTick, type ObjectDirective } from 'vue'

/**
 * The field that somebody types into first, as soon as it is there. A field's own autofocus waits until it is seen to be in sight, which
 * on a busy machine comes so late that it takes the focus from somebody who was quicker.
 */
export const focusFirst: ObjectDirective<HTMLElement, boolean | undefined> = {
  async mounted(el, { value }) {
    if (value === false) return
    await nextTick()
    const field = el.matches('input, textarea') ? el : el.querySelector<HTMLElement>('input, textarea')
    field?.focus()
  },
}
