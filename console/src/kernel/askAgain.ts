import { useQueryCache } from '@pinia/colada'

export type Filters = NonNullable<Parameters<ReturnType<typeof useQueryCache>['invalidateQueries']>[0]>

/**
 * For what has changed at the service: asks again for all that is shown under these keys. Never fails: a question that a newer one
 * overtakes is given up with an error, and that must not look as if the change itself had failed.
 */
export function useAskAgain(): (...what: (string | Filters)[]) => Promise<void> {
  const cache = useQueryCache()
  return async (...what) => {
    await Promise.allSettled(
      what.map((one) => cache.invalidateQueries(typeof one === 'string' ? { key: [one] } : one)),
    )
  }
}
