import { useMutation, useQuery } from '@pinia/colada'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { answered, api, type Schemas } from '../api/client'
import { useMakeRecord } from '../directory/queries'
import { useAskAgain } from '../kernel/askAgain'

/** How address books stand with contacts. */
export function useBooks() {
  return useQuery({
    key: ['address-books'],
    query: ({ signal }) => answered(api.GET('/api/address-books', { signal })),
  })
}

/** What is in a book, and what would come of it. */
export function usePreview(source: MaybeRefOrGetter<number>) {
  return useQuery({
    key: () => ['address-books', 'preview', toValue(source)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/address-books/{source}/preview', {
          params: { path: { source: toValue(source) } },
          signal,
        }),
      ),
  })
}

export function useOpenCards() {
  return useQuery({
    key: ['address-books', 'cards'],
    query: ({ signal }) => answered(api.GET('/api/cards', { signal })),
  })
}

/** What one side removed, where somebody says whether the other removes it, too. */
export function useRemovedCards() {
  return useQuery({
    key: ['address-books', 'removed'],
    query: ({ signal }) => answered(api.GET('/api/cards/removed', { signal })),
  })
}

export function useAnswerRemoved() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (body: Schemas['RemovedAnswer']) => answered(api.POST('/api/cards/removed', { body })),
    onSuccess: () => askAgain('address-books', 'records', 'directory'),
  })
}

export function useNoAccount() {
  return useQuery({
    key: ['address-books', 'no-account'],
    query: ({ signal }) => answered(api.GET('/api/cards/no-account', { signal })),
  })
}

/** Makes an account of a company that stands on a card. */
export function useMakeAccount() {
  const { mutateAsync } = useMakeRecord()
  return async (name: string, domain: string) => {
    const made = await mutateAsync({ kind: 'account', name, ...(domain && { domain }) })
    const path = { kind: 'accounts' as const, id: made.id }
    const { key } = await answered(api.GET('/api/directory/{kind}/{id}', { params: { path } }))
    return { key, made }
  }
}

export function useCardConflicts() {
  return useQuery({
    key: ['address-books', 'conflicts'],
    query: ({ signal }) => answered(api.GET('/api/card-conflicts', { signal })),
  })
}

/** In whose books a contact stands. */
export function useStanding(id: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['address-books', 'of', toValue(id)],
    query: ({ signal }) =>
      answered(api.GET('/api/records/{id}/address-books', { params: { path: { id: toValue(id) } }, signal })),
  })
}

/** Changes what is known of a contact besides the directory's columns. */
export function useChangeMore() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: ({ id, ...body }: { id: string } & Schemas['ContactChange']) =>
      answered(api.PUT('/api/records/{id}/details', { params: { path: { id } }, body })),
    onSettled: () => askAgain('address-books', 'record'),
  })
}

export function useApprove() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (source: number) =>
      answered(api.POST('/api/address-books/{source}/approve', { params: { path: { source } } })),
    onSuccess: () => askAgain('address-books'),
  })
}

export function useTakeBack() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (source: number) =>
      answered(api.POST('/api/address-books/{source}/take-back', { params: { path: { source } } })),
    onSuccess: () => askAgain('address-books', 'records', 'directory'),
  })
}

export function useSettleCard() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: ({ id, body }: { id: string; body: Schemas['CardChoice'] }) =>
      answered(api.POST('/api/cards/{id}/settle', { params: { path: { id } }, body })),
    onSuccess: () => askAgain('address-books'),
  })
}

export function useBringCardBack() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: (id: string) =>
      answered(api.POST('/api/card-conflicts/{id}/bring-back', { params: { path: { id } } })),
    onSuccess: () => askAgain('address-books', 'records', 'directory'),
  })
}

export function usePrivateCategories(connection: MaybeRefOrGetter<string>) {
  return useQuery({
    key: () => ['address-books', 'private', toValue(connection)],
    query: ({ signal }) =>
      answered(
        api.GET('/api/connections/{id}/private-categories', {
          params: { path: { id: toValue(connection) } },
          signal,
        }),
      ),
  })
}

export function useKeepPrivate() {
  const askAgain = useAskAgain()
  return useMutation({
    mutation: ({ id, categories }: { id: string; categories: string[] }) =>
      answered(
        api.PUT('/api/connections/{id}/private-categories', {
          params: { path: { id } },
          body: { categories },
        }),
      ),
    onSuccess: () => askAgain('address-books'),
  })
}
