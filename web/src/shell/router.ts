import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './session.ts';

/** Every area is a chunk of its own; the sign-in page needs none of them. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: () => import('../areas/home/HomePage.vue') },
    { path: '/people/:id?', component: () => import('../areas/people/PeoplePage.vue'), props: true },
    { path: '/queues/:id?', component: () => import('../areas/queues/QueuesPage.vue'), props: true },
    { path: '/numbers/:id?', component: () => import('../areas/numbers/NumbersPage.vue'), props: true },
    { path: '/trunks/:id?', component: () => import('../areas/trunks/TrunksPage.vue'), props: true },
    { path: '/dialling/:id?', component: () => import('../areas/dialling/DiallingPage.vue'), props: true },
    {
      path: '/destinations/:id?',
      component: () => import('../areas/destinations/DestinationsPage.vue'),
      props: true,
    },
    { path: '/records/:id?', component: () => import('../areas/records/RecordsPage.vue'), props: true },
    { path: '/sources/:id?', component: () => import('../areas/sources/SourcesPage.vue'), props: true },
    { path: '/campaigns', component: () => import('../areas/campaigns/CampaignsPage.vue') },
    { path: '/campaigns/:id', component: () => import('../areas/campaigns/CampaignPage.vue'), props: true },
    { path: '/opt-outs', component: () => import('../areas/opt-outs/OptOutsPage.vue') },
    { path: '/floor', component: () => import('../areas/floor/FloorPage.vue') },
    { path: '/desk', component: () => import('../areas/desk/DeskPage.vue') },
    { path: '/calls', component: () => import('../areas/calls/CallsPage.vue') },
    { path: '/calls/:id', component: () => import('../areas/calls/CallPage.vue'), props: true },
    { path: '/set-aside', component: () => import('../areas/set-aside/SetAsidePage.vue') },
    { path: '/stand-ins', component: () => import('../areas/stand-ins/StandInsPage.vue') },
    { path: '/:rest(.*)', component: () => import('./NotFound.vue') },
  ],
});

router.beforeEach((to) => {
  const session = useSession();
  // An agent's first page is their desk.
  if (session.role === 'agent' && !/^\/(desk|calls)(\/|$)/.test(to.path)) return '/desk';
  return true;
});
