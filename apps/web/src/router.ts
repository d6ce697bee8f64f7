import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'jobs', component: () => import('./screens/jobs/JobsScreen.vue') },
    { path: '/audits', name: 'audits', component: () => import('./screens/audits/AuditsScreen.vue') },
    { path: '/audits/:id', name: 'folder-audit', component: () => import('./screens/audits/FolderAuditScreen.vue'), props: true },
    { path: '/board', name: 'board', component: () => import('./screens/board/BoardScreen.vue') },
    { path: '/people', name: 'people', component: () => import('./screens/people/PeopleScreen.vue') },
    { path: '/join', name: 'join', component: () => import('./screens/people/JoinScreen.vue') },
    { path: '/practice', name: 'practice', component: () => import('./screens/practice/PracticeScreen.vue') },
    { path: '/logbook', name: 'logbook', component: () => import('./screens/logbook/LogbookScreen.vue') },
    { path: '/shop', name: 'shop', component: () => import('./screens/shop/ShopScreen.vue') },
    {
      path: '/jobs/:id',
      component: () => import('./shell/BenchShell.vue'),
      props: true,
      children: [
        { path: '', redirect: { name: 'audit' } },
        { path: 'take-in', name: 'take-in', component: () => import('./screens/takeIn/TakeInScreen.vue') },
        { path: 'audit', name: 'audit', component: () => import('./screens/audit/AuditScreen.vue') },
        { path: 'rework', name: 'rework', component: () => import('./screens/rework/ReworkScreen.vue') },
        { path: 'compare', name: 'compare', component: () => import('./screens/compare/CompareScreen.vue') },
        { path: 'release', name: 'release', component: () => import('./screens/release/ReleaseScreen.vue') },
        { path: 'machine', name: 'machine', component: () => import('./screens/machine/MachineScreen.vue') },
        { path: 'sew-outs', name: 'sew-outs', component: () => import('./screens/sewOuts/SewOutsScreen.vue') },
        { path: 'layout', name: 'layout', component: () => import('./screens/layout/LayoutScreen.vue') },
      ],
    },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./shell/NowhereScreen.vue') },
  ],
});
