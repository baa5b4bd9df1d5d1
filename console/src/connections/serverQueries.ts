import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export type NewServer = Schemas['NewServer']

export const KINDS = [
  { value: 'imap', title: 'Mail (IMAP)', port: 993 },
  { value: 'caldav', title: 'Calendars (CalDAV)', port: 443 },
  { value: 'carddav', title: 'Contacts (CardDAV)', port: 443 },
] as const

/** How people sign in there, and what each way needs besides. */
export const WAYS = [
  { value: 'password', title: 'Each with a password', needs: [] },
  { value: 'oauth', title: 'Each by consent (OAuth 2.0)', needs: ['issuer', 'clientId', 'scopes', 'secret'] },
  {
    value: 'organisation-password',
    title: 'One master sign-in for all',
    needs: ['grantLogin', 'secret'],
  },
  {
    value: 'organisation-key',
    title: 'The organisation’s key for all',
    needs: ['issuer', 'clientId', 'scopes', 'secret'],
  },
] as const

function useChanged() {
  const askAgain = useAskAgain()
  return () => askAgain('servers', 'connections')
}

export function useFindServers() {
  return useMutation({
    mutation: (address: string) => answered(api.GET('/api/servers/find', { params: { query: { address } } })),
  })
}

export function useCheckServer() {
  return useMutation({
    mutation: (body: Schemas['ServerCheck']) => answered(api.POST('/api/servers/check', { body })),
  })
}

/** Adds one, or changes the one with this id. */
export function usePutServer() {
  const changed = useChanged()
  return useMutation({
    mutation: async ({ id, server: body }: { id: string | undefined; server: NewServer }) =>
      id
        ? answered(api.PUT('/api/servers/{id}', { params: { path: { id } }, body }))
        : { server: await answered(api.POST('/api/servers', { body })), signInAgain: 0 },
    onSuccess: changed,
  })
}

/** Hosts inside the company's own network that may be reached. */
export function useAllowedHosts() {
  return useQuery({
    key: ['servers', 'allowed'],
    query: ({ signal }) => answered(api.GET('/api/allowed-hosts', { signal })),
  })
}

export function useAllowHost() {
  return useMutation({
    mutation: (host: string) => answered(api.POST('/api/allowed-hosts', { body: { host } })),
    onSuccess: useChanged(),
  })
}

export function useForbidHost() {
  return useMutation({
    mutation: (host: string) =>
      answered(api.DELETE('/api/allowed-hosts/{host}', { params: { path: { host } } })),
    onSuccess: useChanged(),
  })
}

export function useRemoveServer() {
  const changed = useChanged()
  return useMutation({
    mutation: (id: string) => answered(api.DELETE('/api/servers/{id}', { params: { path: { id } } })),
    onSuccess: changed,
  })
}
