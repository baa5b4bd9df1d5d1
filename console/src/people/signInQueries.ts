import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export type SignIn = Schemas['SignInInfo']
export const ROLES: string[] = ['administrator', 'manager', 'rep', 'auditor']

/** The status of a sign-in that the second factor is missing from (RFC 6585 §3). */
export const NEEDS_CODE = 428

/** How a sign-in stands, in words. */
export const STATES: Record<string, string> = {
  active: 'has a password',
  elsewhere: 'single sign-on',
  invited: 'invited',
  'first-password': 'has to choose a password',
  program: 'program',
  ended: 'ended',
}

/** What a token may be used for, in words. */
export const SCOPES = [
  { value: 'read', title: 'Read what you may read' },
  { value: 'capture', title: 'Connections, timelines and meetings' },
  { value: 'directory', title: 'Records and people' },
  { value: 'policy', title: 'Policies and exclusions' },
  { value: 'scim', title: 'People by SCIM' },
  { value: 'measures', title: 'Figures alone' },
] as const

export function useSignIns() {
  return useQuery({
    key: ['sign-ins'],
    query: ({ signal }) => answered(api.GET('/api/sign-ins', { signal })),
  })
}

export function useSignInsChanged() {
  const askAgain = useAskAgain()
  return () => askAgain('sign-ins', 'sessions')
}

export function useInvite() {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: (body: Schemas['InvitePeople']) => answered(api.POST('/api/sign-ins/invite', { body })),
    onSettled: changed,
  })
}

export function useAddSignIn() {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: (body: Schemas['NewSignIn']) => answered(api.POST('/api/sign-ins', { body })),
    onSuccess: changed,
  })
}

/** What is done with one of them; nothing of it needs more than its id. */
export type SignInAct = 'invite' | 'withdraw' | 'end'

export function useSignInAct() {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: async ({ id, what }: { id: string; what: SignInAct }) => {
      const params = { path: { id } }
      if (what === 'invite') await answered(api.POST('/api/sign-ins/{id}/invite', { params }))
      else if (what === 'withdraw') await answered(api.DELETE('/api/sign-ins/{id}/invitation', { params }))
      else await answered(api.POST('/api/sign-ins/{id}/end', { params }))
    },
    onSuccess: changed,
  })
}

export function useLeft() {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: (person: string) =>
      answered(api.POST('/api/people/{id}/left', { params: { path: { id: person } } })),
    onSuccess: changed,
  })
}

export function useRole() {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: ({ id, role, teams }: { id: string; role: string; teams: string[] | null }) =>
      answered(api.PUT('/api/sign-ins/{id}/role', { params: { path: { id } }, body: { role, teams } })),
    onSuccess: changed,
  })
}

/** One's own sessions, or those of a sign-in with this id. */
export function useSessions(signIn: () => string) {
  return useQuery({
    key: () => ['sessions', signIn()],
    query: ({ signal }) =>
      signIn()
        ? answered(api.GET('/api/sign-ins/{id}/tokens', { params: { path: { id: signIn() } }, signal }))
        : answered(api.GET('/api/session/tokens', { signal })),
  })
}

export function useEndSession(signIn: () => string) {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: (token: string) =>
      signIn()
        ? answered(
            api.DELETE('/api/sign-ins/{id}/tokens/{token}', { params: { path: { id: signIn(), token } } }),
          )
        : answered(api.DELETE('/api/session/tokens/{id}', { params: { path: { id: token } } })),
    onSuccess: changed,
  })
}

export function useMakeToken(signIn: () => string) {
  const changed = useSignInsChanged()
  return useMutation({
    mutation: (body: Schemas['NewToken']) =>
      signIn()
        ? answered(api.POST('/api/sign-ins/{id}/tokens', { params: { path: { id: signIn() } }, body }))
        : answered(api.POST('/api/session/tokens', { body })),
    onSuccess: changed,
  })
}
