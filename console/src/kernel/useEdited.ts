import { computed, reactive, watch, type ComputedRef } from 'vue'

export type Fields = Record<string, string | boolean>

/** A field that somebody typed in, and that the service has another value of by now. */
export interface News<T extends Fields> {
  field: keyof T & string
  now: T[keyof T]
  /** Takes the service's value in place of what was typed. */
  take: () => void
}

export interface Edited<T extends Fields> {
  form: T
  /** What each field was filled from. */
  seen: T
  changed: ComputedRef<boolean>
  /** What changed meanwhile in fields that somebody typed in: to be shown beside them. */
  news: ComputedRef<News<T>[]>
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
  const fields = Object.keys(says()) as (keyof T & string)[]
  watch(
    () => [of(), says()] as const,
    ([id, now], [was]) => {
      for (const field of fields) {
        if (id !== was || form[field] === seen[field]) form[field] = seen[field] = now[field]
      }
    },
  )
  return {
    form,
    seen,
    changed: computed(() => fields.some((f) => form[f] !== seen[f])),
    news: computed(() => {
      const now = says()
      return fields
        .filter((f) => now[f] !== seen[f] && now[f] !== form[f])
        .map((field) => ({
          field,
          now: now[field],
          take: () => void (form[field] = seen[field] = now[field]),
        }))
    }),
    saved: () => void Object.assign(seen, form),
    overNow: () => void Object.assign(seen, says()),
  }
}
