import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'

/** What a route says of its page: its crumb and help in the catalogues, and the step it is of. */
declare module 'vue-router' {
  interface RouteMeta {
    crumb?: string
    help?: string
    step?: string
  }
}

/** The steps of one pairing. */
const STEPS: RouteRecordRaw[] = [
  {
    path: '',
    name: 'pair',
    component: () => import('@/steps/pair/PairPage.vue'),
    props: true,
    meta: { crumb: 'pair', help: 'pair' },
  },
  {
    path: 'content',
    name: 'content',
    component: () => import('@/steps/content/ContentPage.vue'),
    props: true,
    meta: { crumb: 'content', help: 'content' },
  },
  {
    path: 'content/imports/:import',
    name: 'import',
    component: () => import('@/steps/content/ImportPage.vue'),
    props: true,
    meta: { step: 'content', crumb: 'import', help: 'content' },
  },
  {
    path: 'deploy',
    component: () => import('@/steps/deploy/DeployFrame.vue'),
    props: true,
    meta: { step: 'deploy' },
    children: [
      {
        path: '',
        name: 'deploy',
        component: () => import('@/steps/deploy/DeployPage.vue'),
        props: true,
        meta: { crumb: 'deploy', help: 'deploy' },
      },
      {
        path: 'placed',
        name: 'placed',
        component: () => import('@/steps/deploy/PlacedPage.vue'),
        props: true,
        meta: { crumb: 'placed', help: 'placed' },
      },
      {
        path: 'changes',
        name: 'changes',
        component: () => import('@/steps/deploy/ChangesPage.vue'),
        props: true,
        meta: { crumb: 'changes', help: 'changes' },
      },
      {
        path: 'rollouts',
        name: 'rollouts',
        component: () => import('@/steps/deploy/RolloutsPage.vue'),
        props: true,
        meta: { crumb: 'rollouts', help: 'rollouts' },
      },
      // Addresses of earlier versions, in mails and bookmarks.
      { path: 'standing', redirect: (to) => ({ name: 'placed', params: to.params }) },
      { path: 'kept-right', redirect: (to) => ({ name: 'changes', params: to.params }) },
    ],
  },
  {
    path: 'relay',
    name: 'relay',
    component: () => import('@/steps/relay/RelayPage.vue'),
    props: true,
    meta: { crumb: 'relay', help: 'relay' },
  },
  {
    path: 'reconcile',
    name: 'reconcile',
    component: () => import('@/steps/reconcile/ReconcilePage.vue'),
    props: true,
    meta: { crumb: 'reconcile', help: 'reconcile' },
  },
  {
    path: 'activity',
    name: 'activity',
    component: () => import('@/steps/activity/ActivityPage.vue'),
    props: true,
    meta: { crumb: 'activity', help: 'activity' },
  },
]

/** The pages that are of no one pairing. */
const PAGES: RouteRecordRaw[] = [
  {
    path: '',
    name: 'today',
    component: () => import('@/steps/today/TodayPage.vue'),
    meta: { help: 'today' },
  },
  {
    path: 'shells',
    name: 'shells',
    component: () => import('@/steps/shells/ShellsPage.vue'),
    meta: { help: 'shells' },
  },
  { path: 'sign-in', name: 'sign-in', component: () => import('@/steps/connect/SignInPage.vue') },
  {
    path: 'access',
    name: 'access',
    component: () => import('@/steps/connect/AccessPage.vue'),
    meta: { help: 'access' },
  },
  {
    path: 'connections',
    name: 'connections',
    component: () => import('@/steps/connect/ConnectionsPage.vue'),
    meta: { help: 'connections' },
  },
  {
    path: 'accounts',
    name: 'accounts',
    component: () => import('@/steps/pair/AccountsPage.vue'),
    meta: { help: 'accounts' },
  },
  {
    path: 'operations',
    name: 'operations',
    component: () => import('@/steps/operations/OperationsPage.vue'),
    meta: { help: 'operations' },
  },
  {
    path: 'notices',
    name: 'notices',
    component: () => import('@/steps/activity/NoticesPage.vue'),
    meta: { help: 'notices' },
  },
  {
    path: 'pick/:picking',
    name: 'pick',
    component: () => import('@/steps/deploy/PickPage.vue'),
    props: true,
  },
  {
    path: 'agreement',
    name: 'agreement',
    component: () => import('@/steps/reconcile/AgreementPage.vue'),
    meta: { help: 'agreement' },
  },
  {
    path: 'files',
    name: 'files',
    component: () => import('@/steps/reconcile/files/FilesPage.vue'),
    meta: { help: 'files' },
  },
  {
    path: 'set-up',
    name: 'begin-set-up',
    component: () => import('@/steps/set_up/BeginPage.vue'),
    meta: { crumb: 'set_up', help: 'set_up' },
  },
  {
    path: 'set-ups/:setUp',
    name: 'set-up',
    component: () => import('@/steps/set_up/SetUpPage.vue'),
    props: true,
    meta: { crumb: 'set_up', help: 'set_up' },
  },
  {
    path: 'shells/:shell/copied',
    name: 'copied',
    component: () => import('@/steps/pair/CopiedPage.vue'),
    props: true,
    meta: { crumb: 'copied', help: 'set_up' },
  },
  {
    path: 'shells/:shell/pair',
    name: 'choose-course',
    component: () => import('@/steps/pair/ChooseCoursePage.vue'),
    props: true,
    meta: { crumb: 'choose', help: 'pair' },
  },
  { path: 'help', redirect: '/help/first-day' },
  {
    path: 'help/:page',
    name: 'help',
    component: () => import('@/help/HelpPage.vue'),
    props: true,
    meta: { crumb: 'help' },
  },
  {
    path: 'pairings/:pairing',
    component: () => import('@/steps/pair/PairingFrame.vue'),
    props: true,
    children: STEPS,
  },
  { path: ':rest(.*)*', name: 'nowhere', component: () => import('@/parts/NowherePage.vue') },
]

export const router = createRouter({
  history: createWebHistory(),
  routes: [{ path: '/', component: () => import('@/frame/AppFrame.vue'), children: PAGES }],
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? undefined : { top: 0 }),
})
