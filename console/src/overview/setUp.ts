/** What an installation has so far. */
export interface SetUp {
  domains: number
  people: number
  servers: number
  policies: string[]
  connections: number
  signIns: number
  captured: boolean
}

export interface SetUpStep {
  key: string
  what: string
  why: string
  done: boolean
  action: string
  to: { path: string; query?: Record<string, string> }
  /** Whether an installation is set up without it, too. */
  optional?: boolean
}

/** From an empty installation to the first timeline, in the order in which each needs the one before. */
export function setUpSteps(has: SetUp): SetUpStep[] {
  const policy = has.policies[0]
  return [
    {
      key: 'domains',
      what: 'Say which domains are yours',
      why: 'Mail among colleagues is left out; everybody else is a customer, or may become one.',
      done: has.domains > 0,
      action: 'Domains',
      to: { path: '/directory', query: { kind: 'domains' } },
    },
    {
      key: 'people',
      what: 'Bring in your people and customers',
      why: 'From a CSV or Excel file of any shape, or people by SCIM with a token of a program’s sign-in.',
      done: has.people > 0,
      action: 'Import',
      to: { path: '/directory', query: { kind: 'import' } },
    },
    {
      key: 'server',
      what: 'Add the server that your mail is at',
      why: 'An address of yours mostly finds it; it is tried step by step before anybody depends on it.',
      done: has.servers > 0,
      action: 'Servers',
      to: { path: '/servers' },
    },
    {
      key: 'policy',
      what: 'Look over the policy',
      why: policy
        ? `“${policy}” is on: it says what is captured, for whom, and who reads it.`
        : 'None is on: nothing is captured until one is.',
      done: policy !== undefined,
      action: 'Policies',
      to: { path: '/policy' },
    },
    {
      key: 'connect',
      what: 'Connect one person first',
      why: 'See that what comes onto timelines is right, then connect everybody.',
      done: has.connections > 0,
      action: 'Connect',
      to: { path: '/connections' },
    },
    {
      key: 'arrives',
      what: 'Watch it arrive',
      why: 'Every message and meeting is logged, waits, or is left out, and says why.',
      done: has.captured,
      action: 'Decisions',
      to: { path: '/decisions' },
    },
    {
      key: 'invite',
      what: 'Invite your people',
      why: 'Each chooses a password by a link that comes by mail, and sees their own.',
      done: has.signIns > 1,
      action: 'Sign-ins',
      to: { path: '/sign-ins' },
      optional: true,
    },
  ]
}

/** Whether all is there that nothing works without. */
export function isSetUp(steps: readonly SetUpStep[]): boolean {
  return steps.every((s) => s.done || s.optional)
}
