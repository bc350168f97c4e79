import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      component: () => import('@/parts/ThemedLayout.vue'),
      children: [
        { path: '', name: 'shells', component: () => import('@/steps/shells/ShellsPage.vue') },
        {
          path: 'sign-in',
          name: 'sign-in',
          component: () => import('@/steps/connect/SignInPage.vue'),
        },
        {
          path: 'access',
          name: 'access',
          component: () => import('@/steps/connect/AccessPage.vue'),
        },
        {
          path: 'connections',
          name: 'connections',
          component: () => import('@/steps/connect/ConnectionsPage.vue'),
        },
        {
          path: 'accounts',
          name: 'accounts',
          component: () => import('@/steps/pair/AccountsPage.vue'),
        },
        {
          path: 'operations',
          name: 'operations',
          component: () => import('@/steps/operations/OperationsPage.vue'),
        },
        {
          path: 'notices',
          name: 'notices',
          component: () => import('@/steps/activity/NoticesPage.vue'),
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
        },
        {
          path: 'files',
          name: 'files',
          component: () => import('@/steps/reconcile/files/FilesPage.vue'),
        },
        {
          path: 'set-up',
          name: 'begin-set-up',
          component: () => import('@/steps/set_up/BeginPage.vue'),
        },
        {
          path: 'set-ups/:setUp',
          name: 'set-up',
          component: () => import('@/steps/set_up/SetUpPage.vue'),
          props: true,
        },
        {
          path: 'shells/:shell/copied',
          name: 'copied',
          component: () => import('@/steps/pair/CopiedPage.vue'),
          props: true,
        },
        {
          path: 'shells/:shell/pair',
          name: 'choose-course',
          component: () => import('@/steps/pair/ChooseCoursePage.vue'),
          props: true,
        },
        {
          path: 'pairings/:pairing',
          component: () => import('@/steps/pair/PairingFrame.vue'),
          props: true,
          children: [
            {
              path: '',
              name: 'pair',
              component: () => import('@/steps/pair/PairPage.vue'),
              props: true,
            },
            {
              path: 'content',
              name: 'content',
              component: () => import('@/steps/content/ContentPage.vue'),
              props: true,
            },
            {
              path: 'content/imports/:import',
              name: 'import',
              component: () => import('@/steps/content/ImportPage.vue'),
              props: true,
              meta: { step: 'content' },
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
                },
                {
                  path: 'standing',
                  name: 'standing',
                  component: () => import('@/steps/deploy/StandingPage.vue'),
                  props: true,
                },
                {
                  path: 'kept-right',
                  name: 'kept-right',
                  component: () => import('@/steps/deploy/KeptRightPage.vue'),
                  props: true,
                },
                {
                  path: 'rollouts',
                  name: 'rollouts',
                  component: () => import('@/steps/deploy/RolloutsPage.vue'),
                  props: true,
                },
              ],
            },
            {
              path: 'relay',
              name: 'relay',
              component: () => import('@/steps/relay/RelayPage.vue'),
              props: true,
            },
            {
              path: 'reconcile',
              name: 'reconcile',
              component: () => import('@/steps/reconcile/ReconcilePage.vue'),
              props: true,
            },
            {
              path: 'activity',
              name: 'activity',
              component: () => import('@/steps/activity/ActivityPage.vue'),
              props: true,
            },
          ],
        },
        { path: ':rest(.*)*', name: 'nowhere', component: () => import('@/parts/NowherePage.vue') },
      ],
    },
  ],
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? undefined : { top: 0 }),
})
