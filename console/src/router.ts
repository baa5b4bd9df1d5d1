import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/overview' },
    {
      path: '/overview',
      component: () => import('./overview/OverviewPage.vue'),
      meta: { title: 'Overview' },
    },
    {
      path: '/sign-in',
      component: () => import('./people/SignInPage.vue'),
      meta: { title: 'Sign in', open: true },
    },
    {
      path: '/welcome',
      component: () => import('./people/WelcomePage.vue'),
      meta: { title: 'Welcome', open: true },
    },
    {
      path: '/mailbox',
      component: () => import('./overview/MailboxPage.vue'),
      meta: { title: 'Your mailbox' },
    },
    {
      path: '/servers',
      component: () => import('./connections/ServersPage.vue'),
      meta: { title: 'Servers' },
    },
    {
      path: '/account',
      component: () => import('./people/AccountPage.vue'),
      meta: { title: 'Your sign-in' },
    },
    {
      path: '/sign-ins',
      component: () => import('./people/SignInsPage.vue'),
      meta: { title: 'Sign-ins' },
    },
    {
      path: '/timeline/:record?',
      component: () => import('./timeline/TimelinePage.vue'),
      meta: { title: 'Timelines' },
    },
    {
      path: '/calendar',
      component: () => import('./meetings/CalendarPage.vue'),
      meta: { title: 'Calendar' },
    },
    {
      path: '/in-step',
      component: () => import('./meetings/InStepPage.vue'),
      meta: { title: 'Sync' },
    },
    {
      path: '/measures',
      component: () => import('./measures/MeasuresPage.vue'),
      meta: { title: 'Measures' },
    },
    {
      path: '/address-books',
      component: () => import('./contacts/BooksPage.vue'),
      meta: { title: 'Address books' },
    },
    {
      path: '/decisions',
      component: () => import('./timeline/DecisionsPage.vue'),
      meta: { title: 'Decisions' },
    },
    {
      path: '/triage',
      component: () => import('./triage/TriagePage.vue'),
      meta: { title: 'Triage' },
    },
    {
      path: '/exclusions',
      component: () => import('./policy/ExclusionsPage.vue'),
      meta: { title: 'Exclusions' },
    },
    {
      path: '/connections',
      component: () => import('./connections/ConnectionsPage.vue'),
      meta: { title: 'Connections' },
    },
    {
      path: '/directory',
      component: () => import('./directory/DirectoryPage.vue'),
      meta: { title: 'Directory' },
    },
    { path: '/policy', component: () => import('./policy/PolicyPage.vue'), meta: { title: 'Policies' } },
    {
      path: '/coverage',
      component: () => import('./policy/CoveragePage.vue'),
      meta: { title: 'Coverage' },
    },
    {
      path: '/journal',
      component: () => import('./journal/JournalPage.vue'),
      meta: { title: 'Journal' },
    },
    {
      path: '/:rest(.*)',
      component: () => import('./kernel/MissingPage.vue'),
      meta: { title: 'No such page' },
    },
  ],
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Jandrel`
})
