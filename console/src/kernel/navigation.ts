import {
  mdiAccountCircleOutline,
  mdiAccountGroupOutline,
  mdiAccountKeyOutline,
  mdiAccountQuestionOutline,
  mdiBookAccountOutline,
  mdiBookLockOutline,
  mdiCalendarOutline,
  mdiCancel,
  mdiCardAccountDetailsOutline,
  mdiChartBoxOutline,
  mdiEmailOutline,
  mdiEmailSyncOutline,
  mdiListStatus,
  mdiScriptTextOutline,
  mdiServerOutline,
  mdiSyncCircle,
  mdiTimelineTextOutline,
  mdiViewDashboardOutline,
} from '@mdi/js'

export interface PageLink {
  name: string
  path: string
  icon: string
  /** Typed one after the other. */
  keys: string
  /** Who gets it; everybody where it is absent. */
  roles?: readonly string[]
}

export interface PageGroup {
  heading: string
  pages: readonly PageLink[]
}

const OVERSIGHT = ['administrator', 'manager', 'auditor'] as const

/** All pages, grouped by what people do. Drawer, palette and shortcuts go by this one list. */
export const groups: readonly PageGroup[] = [
  {
    heading: '',
    pages: [
      { name: 'Overview', path: '/overview', icon: mdiViewDashboardOutline, keys: 'g o' },
      { name: 'Your mailbox', path: '/mailbox', icon: mdiEmailOutline, keys: 'g m' },
    ],
  },
  {
    heading: 'Customers',
    pages: [
      { name: 'Timelines', path: '/timeline', icon: mdiTimelineTextOutline, keys: 'g t' },
      { name: 'Calendar', path: '/calendar', icon: mdiCalendarOutline, keys: 'g c' },
      { name: 'Measures', path: '/measures', icon: mdiChartBoxOutline, keys: 'g f' },
      { name: 'Directory', path: '/directory', icon: mdiCardAccountDetailsOutline, keys: 'g d' },
    ],
  },
  {
    heading: 'Needs you',
    pages: [
      { name: 'Triage', path: '/triage', icon: mdiAccountQuestionOutline, keys: 'g u' },
      { name: 'Sync', path: '/in-step', icon: mdiSyncCircle, keys: 'g s' },
      { name: 'Address books', path: '/address-books', icon: mdiBookAccountOutline, keys: 'g b' },
      { name: 'Connections', path: '/connections', icon: mdiEmailSyncOutline, keys: 'g n' },
    ],
  },
  {
    heading: 'Rules',
    pages: [
      { name: 'Policies', path: '/policy', icon: mdiScriptTextOutline, keys: 'g p', roles: OVERSIGHT },
      { name: 'Exclusions', path: '/exclusions', icon: mdiCancel, keys: 'g e' },
      { name: 'Coverage', path: '/coverage', icon: mdiAccountGroupOutline, keys: 'g v' },
    ],
  },
  {
    heading: 'Set-up',
    pages: [
      { name: 'Servers', path: '/servers', icon: mdiServerOutline, keys: 'g r', roles: OVERSIGHT },
      { name: 'Sign-ins', path: '/sign-ins', icon: mdiAccountKeyOutline, keys: 'g i', roles: OVERSIGHT },
      { name: 'Your sign-in', path: '/account', icon: mdiAccountCircleOutline, keys: 'g y' },
    ],
  },
  {
    heading: 'Audit',
    pages: [
      { name: 'Decisions', path: '/decisions', icon: mdiListStatus, keys: 'g w' },
      {
        name: 'Journal',
        path: '/journal',
        icon: mdiBookLockOutline,
        keys: 'g j',
        roles: ['administrator', 'auditor'],
      },
    ],
  },
]

/** Those that somebody in this role gets; groups without any are left out. */
export function groupsFor(role: string): PageGroup[] {
  return groups
    .map((g) => ({ ...g, pages: g.pages.filter((p) => !p.roles || p.roles.includes(role)) }))
    .filter((g) => g.pages.length > 0)
}
