import type { Schemas } from '../api/client'

/** Something that somebody has to do. */
export interface Need {
  key: string
  level: 'bad' | 'held' | 'open'
  what: string
  who: string
  about: string
  action: string
  to: { path: string; query?: Record<string, string> }
}

const STATES: Record<string, { what: string; action: string; level: Need['level'] }> = {
  'needs-sign-in': { what: 'Sign-in refused', action: 'Sign in again', level: 'bad' },
  refused: { what: 'Account not accepted', action: 'Review', level: 'held' },
  'waiting-for-consent': { what: 'Waiting for consent', action: 'Review', level: 'held' },
  unreachable: { what: 'Server unreachable', action: 'Review', level: 'bad' },
  overdue: { what: 'Behind', action: 'Review', level: 'held' },
}

/** What needs somebody, the worst first. Paused and ended connections are as somebody wanted them. */
export function needsOf(
  connections: readonly Schemas['ConnectionInfo'][],
  calendars: readonly Schemas['CalendarStand'][],
  people: readonly Schemas['CoverageInfo'][],
): Need[] {
  const needs: Need[] = []
  for (const c of connections) {
    const state = STATES[c.state]
    if (state)
      needs.push({
        key: c.id,
        ...state,
        who: `${c.personName} · ${c.account}`,
        about: c.detail,
        to: { path: '/connections', query: { find: c.account } },
      })
  }
  for (const c of calendars) {
    if (c.held)
      needs.push({
        key: `held ${c.source}`,
        level: 'held',
        what: 'Calendar held back',
        who: `${c.personName} · ${c.label}`,
        about: 'much vanished at once; nothing is removed until somebody confirms it',
        action: 'Review',
        to: { path: '/in-step' },
      })
    else if (c.stuck > 0)
      needs.push({
        key: `stuck ${c.source}`,
        level: 'held',
        what: 'Calendar takes nothing',
        who: `${c.personName} · ${c.label}`,
        about: `${c.stuck} not written, tried again`,
        action: 'Review',
        to: { path: '/in-step' },
      })
  }
  for (const p of people) {
    if (p.state === 'not-connected')
      needs.push({
        key: p.id,
        level: 'open',
        what: 'Not connected',
        who: p.name,
        about: p.policyName ? `covered by ${p.policyName}` : p.why,
        action: 'Connect',
        to: { path: '/connections' },
      })
  }
  const order = { bad: 0, held: 1, open: 2 }
  return needs.sort((a, b) => order[a.level] - order[b.level])
}
