import { useMutation, useQuery } from '@pinia/colada'
import { answered, api, type Schemas } from '../api/client'
import { useAskAgain } from '../kernel/askAgain'

export function useConnections() {
  return useQuery({
    key: ['connections'],
    query: ({ signal }) => answered(api.GET('/api/connections', { signal })),
  })
}

/** What came of a consent. */
export const CONSENTS: Record<string, string> = {
  given: 'Consent given; what came in meanwhile is being caught up with.',
  refused: 'No consent was given; nothing is captured.',
  late: 'That answer came too late, or nobody asked for it; sign in once more.',
  failed: 'The provider did not take it; try once more, or ask an administrator.',
}

/** Whether somebody has to do something about it: what is paused or has ended is as somebody wanted it. */
export function isTroubled(c: Schemas['ConnectionInfo']): boolean {
  return c.detail !== '' && c.state !== 'paused' && c.state !== 'disconnected'
}

export function useServers() {
  return useQuery({ key: ['servers'], query: ({ signal }) => answered(api.GET('/api/servers', { signal })) })
}

/** Where one may connect one's own. */
export function useOffers() {
  return useQuery({
    key: ['servers', 'offers'],
    query: ({ signal }) => answered(api.GET('/api/offers', { signal })),
  })
}

/** What was done is said at once: a service that has just begun to read three hundred mailboxes takes its time with lists. */
function useChanged() {
  const askAgain = useAskAgain()
  return () => void askAgain('connections', 'servers', 'coverage')
}

export function useLook() {
  const changed = useChanged()
  return useMutation({
    mutation: (id: string) => answered(api.POST('/api/connections/{id}/look', { params: { path: { id } } })),
    onSuccess: changed,
  })
}

export function useConnect() {
  const changed = useChanged()
  return useMutation({
    mutation: (body: Schemas['NewConnection']) => answered(api.POST('/api/connections', { body })),
    onSuccess: changed,
  })
}

export function useNewPassword() {
  const changed = useChanged()
  return useMutation({
    mutation: (given: { id: string; password: string }) =>
      answered(
        api.POST('/api/connections/{id}/password', {
          params: { path: { id: given.id } },
          body: { password: given.password },
        }),
      ),
    onSuccess: changed,
  })
}

export function useAct() {
  const changed = useChanged()
  return useMutation({
    mutation: (wanted: { id: string; what: 'pause' | 'resume' | 'accept' }) => {
      const params = { path: { id: wanted.id } }
      if (wanted.what === 'pause') return answered(api.POST('/api/connections/{id}/pause', { params }))
      if (wanted.what === 'resume') return answered(api.POST('/api/connections/{id}/resume', { params }))
      return answered(api.POST('/api/connections/{id}/accept', { params }))
    },
    onSuccess: changed,
  })
}

export type ManyAct = 'sync' | 'pause' | 'resume' | 'remind'

/** One thing, done to many: what stood against it is said of each. */
export function useActs() {
  const changed = useChanged()
  return useMutation({
    mutation: (wanted: { connections: string[]; act: ManyAct }) =>
      answered(api.POST('/api/connections/acts', { body: wanted })),
    onSuccess: changed,
  })
}

/** Leads the browser to the provider's own page, and back to one's own mailbox. */
export function useConsent() {
  return useMutation({
    mutation: (id: string) =>
      answered(api.POST('/api/connections/{id}/consent', { params: { path: { id } } })),
    onSuccess: (page) => window.location.assign(page.url),
  })
}

export function useChoose() {
  const changed = useChanged()
  return useMutation({
    mutation: ({ id, ...body }: { id: string } & Schemas['ChosenSources']) =>
      answered(api.PUT('/api/connections/{id}/sources', { params: { path: { id } }, body })),
    onSuccess: changed,
  })
}

export function useHeld(source: () => number) {
  return useQuery({
    key: () => ['held', source()],
    query: ({ signal }) =>
      answered(api.GET('/api/sources/{id}/held', { params: { path: { id: source() } }, signal })),
  })
}

export function useLetPass() {
  const changed = useChanged()
  return useMutation({
    mutation: (id: number) => answered(api.POST('/api/sources/{id}/let-pass', { params: { path: { id } } })),
    onSuccess: changed,
  })
}

export function useNewCalendar() {
  const changed = useChanged()
  return useMutation({
    mutation: (wanted: { id: string; name: string }) =>
      answered(
        api.POST('/api/connections/{id}/calendars', {
          params: { path: { id: wanted.id } },
          body: { name: wanted.name },
        }),
      ),
    onSuccess: changed,
  })
}

export function useEnd() {
  const changed = useChanged()
  return useMutation({
    mutation: (wanted: { id: string; forGood: boolean }) =>
      answered(
        api.DELETE('/api/connections/{id}', {
          params: { path: { id: wanted.id }, query: { forGood: wanted.forGood } },
        }),
      ),
    onSuccess: changed,
  })
}

export function useEveryone() {
  const changed = useChanged()
  return useMutation({
    mutation: ({ server, people }: { server: string; people?: string[] }) =>
      answered(api.POST('/api/connections/everyone', { body: { server, people: people ?? null } })),
    onSuccess: changed,
  })
}
