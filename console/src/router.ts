import { createRouter, createWebHistory } from 'vue-router'

export const pages = [
  { name: 'Timeline', path: '/timeline' },
  { name: 'Calendar', path: '/calendar' },
  { name: 'In step', path: '/in-step' },
  { name: 'Decisions', path: '/decisions' },
  { name: 'Triage', path: '/triage' },
  { name: 'Coverage', path: '/coverage' },
  { name: 'Connections', path: '/connections' },
  { name: 'Policies', path: '/policy' },
  { name: 'Exclusions', path: '/exclusions' },
  { name: 'Directory', path: '/directory' },
  { name: 'Journal', path: '/journal' },
]

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/timeline' },
    {
      path: '/sign-in',
      component: () => import('./people/SignInPage.vue'),
      meta: { title: 'Sign in', open: true },
    },
    {
      path: '/timeline/:record?',
      component: () => import('./timeline/TimelinePage.vue'),
      meta: { title: 'Timeline' },
    },
    {
      path: '/calendar',
      component: () => import('./meetings/CalendarPage.vue'),
      meta: { title: 'Calendar' },
    },
    {
      path: '/in-step',
      component: () => import('./meetings/InStepPage.vue'),
      meta: { title: 'In step' },
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
    { path: '/:rest(.*)', redirect: '/timeline' },
  ],
})

router.afterEach((to) => {
  document.title = `${String(to.meta.title)} · Jandrel`
})
