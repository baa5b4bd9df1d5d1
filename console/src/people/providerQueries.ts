import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export type Provider = Schemas['ProviderInfo']
export type NewProvider = Schemas['NewProvider']

const KEPT = 'jandrel.ways-in'

/** As it was the last time, so that the page does not jump. */
function before(): Schemas['WaysIn'] | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null')
    return Array.isArray(kept?.providers) ? kept : undefined
  } catch {
    return undefined
  }
}

/** How one signs in here; asked for before anybody has. */
export function useWaysIn() {
  return useQuery({
    key: ['ways-in'],
    query: async ({ signal }) => {
      const ways = await answered(api.GET('/api/session/ways', { signal }))
      localStorage.setItem(KEPT, JSON.stringify(ways))
      return ways
    },
    placeholderData: before,
  })
}

export function useProviders() {
  return useQuery({
    key: ['providers'],
    query: ({ signal }) => answered(api.GET('/api/providers', { signal })),
  })
}

export function usePasswordRule() {
  return useQuery({
    key: ['providers', 'passwords'],
    query: ({ signal }) => answered(api.GET('/api/password-rule', { signal })),
  })
}

function useChanged() {
  const askAgain = useAskAgain()
  return () => askAgain('providers', 'ways-in', 'sign-ins')
}

export function useCheckProvider() {
  return useMutation({
    mutation: (body: NewProvider) => answered(api.POST('/api/providers/check', { body })),
  })
}

export function useSaveProvider() {
  const changed = useChanged()
  return useMutation({
    mutation: ({ id, body }: { id: string; body: NewProvider }) =>
      id
        ? answered(api.PUT('/api/providers/{id}', { params: { path: { id } }, body }))
        : answered(api.POST('/api/providers', { body })),
    onSuccess: changed,
  })
}

export function useRemoveProvider() {
  const changed = useChanged()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/providers/{id}', { params: { path: { id } } })),
    onSuccess: changed,
  })
}

export function useSetPasswordRule() {
  const changed = useChanged()
  return useMutation({
    mutation: (body: Schemas['PasswordRule']) => answered(api.PUT('/api/password-rule', { body })),
    onSuccess: changed,
  })
}

/** Why somebody who came from a provider was not let in, and what to do. */
export const PROBLEMS: Record<string, { says: string; todo: string }> = {
  expired: { says: 'It took too long, or began in another browser', todo: 'Sign in again.' },
  denied: { says: 'The provider did not let you through', todo: 'Sign in again, or ask who looks after it.' },
  provider: {
    says: 'The provider does not answer as it should',
    todo: 'Try again in a minute. If it stays so, tell your administrator: the service’s log says why.',
  },
  token: {
    says: 'What the provider says of you cannot be believed',
    todo: 'Tell your administrator: the service’s log says why.',
  },
  unverified: {
    says: 'The provider does not vouch for your mail address',
    todo: 'Confirm the address there, then sign in again.',
  },
  nobody: {
    says: 'Nobody in your company’s directory here has your mail address',
    todo: 'Ask your administrator to add you, or the address.',
  },
  ended: { says: 'Your sign-in has ended', todo: 'Ask your administrator to invite you again.' },
  taken: {
    says: 'Your sign-in belongs to another account at this provider, or somebody else has your login',
    todo: 'Sign in with the other account, or ask your administrator.',
  },
  role: {
    says: 'None of your groups there gives you a role here',
    todo: 'Ask your administrator which group you need.',
  },
}
