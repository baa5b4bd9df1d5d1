import { computed, reactive, watch, type ComputedRef } from 'vue'

type Fields = Record<string, string | boolean>

export interface Edited<T extends Fields> {
  form: T
  /** What each field was filled from. */
  seen: T
  changed: ComputedRef<boolean>
  /** What is typed is what is saved now. */
  saved: () => void
  /** What is typed stays, and counts as typed over what the server says now. */
  overNow: () => void
}

/**
 * A form over what the server says. News move the fields that are as they were filled, and never one that somebody is typing in; another
 * thing to edit fills all of them.
 */
export function useEdited<T extends Fields>(says: () => T, of: () => unknown = () => ''): Edited<T> {
  const form = reactive({ ...says() }) as T
  const seen = reactive({ ...says() }) as T
  watch(
    () => [of(), says()] as const,
    ([id, now], [was]) => {
      for (const field of Object.keys(now) as (keyof T)[]) {
        if (id !== was || form[field] === seen[field]) form[field] = seen[field] = now[field]
      }
    },
  )
  return {
    form,
    seen,
    changed: computed(() => (Object.keys(seen) as (keyof T)[]).some((f) => form[f] !== seen[f])),
    saved: () => void Object.assign(seen, form),
    overNow: () => void Object.assign(seen, says()),
  }
}
