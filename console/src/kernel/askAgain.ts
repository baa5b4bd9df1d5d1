import { useQueryCache } from '@pinia/colada'

export type Filters = NonNullable<Parameters<ReturnType<typeof useQueryCache>['invalidateQueries']>[0]>

/** A change waits for so many newer questions at most: where much changes, there is always another one. */
const NEWER = 3

/**
 * For what has changed at the service: asks again for all that is shown under these keys, and is done when that stands there, though a
 * newer question overtook this one. Never fails: a question that is overtaken is given up with an error, and that must not look as if the
 * change itself had failed.
 */
export function useAskAgain(): (...what: (string | Filters)[]) => Promise<void> {
  const cache = useQueryCache()
  async function ask(filters: Filters) {
    try {
      await cache.invalidateQueries(filters)
    } catch {
      for (let newer = 0; newer < NEWER; newer++) {
        const asked = cache.getEntries({ ...filters, active: true }).flatMap((entry) => entry.pending ?? [])
        if (!asked.length) return
        await Promise.allSettled(asked.map((one) => one.refreshCall))
      }
    }
  }
  return async (...what) => {
    await Promise.all(what.map((one) => ask(typeof one === 'string' ? { key: [one] } : one)))
  }
}
