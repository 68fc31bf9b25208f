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
    { path: '/calls', component: () => import('../areas/calls/CallsPage.vue') },
    { path: '/calls/:id', component: () => import('../areas/calls/CallPage.vue'), props: true },
    { path: '/stand-ins', component: () => import('../areas/stand-ins/StandInsPage.vue') },
    { path: '/:rest(.*)', component: () => import('./NotFound.vue') },
  ],
});

router.beforeEach((to) => {
  const session = useSession();
  // An agent's first page is their calls.
  if (session.role === 'agent' && !to.path.startsWith('/calls')) return '/calls';
  return true;
});
