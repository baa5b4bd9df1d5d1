import { useQueryCache } from '@pinia/colada'

/**
 * For what has changed at the service: asks again for all that is shown under these keys. Never fails: a question that a newer one
 * overtakes is given up with an error, and that must not look as if the change itself had failed.
 */
export function useAskAgain(): (...keys: string[]) => Promise<void> {
  const cache = useQueryCache()
  return async (...keys) => {
    await Promise.allSettled(keys.map((key) => cache.invalidateQueries({ key: [key] })))
  }
}
