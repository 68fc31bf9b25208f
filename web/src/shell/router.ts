import type { PagePath } from '@night-bell/core/model/page-paths';
import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './session.ts';

/** Every area is a chunk of its own; the sign-in page needs none of them. */
const pages: Record<Exclude<PagePath, '/enrol'>, () => Promise<unknown>> = {
  '/': () => import('../areas/home/HomePage.vue'),
  '/people/:id?': () => import('../areas/people/PeoplePage.vue'),
  '/answering/:id?': () => import('../areas/plans/PlansPage.vue'),
  '/regions/:id?': () => import('../areas/regions/RegionsPage.vue'),
  '/bots/:id?': () => import('../areas/bots/BotsPage.vue'),
  '/hours/:id?': () => import('../areas/hours/HoursPage.vue'),
  '/prompts/:id?': () => import('../areas/prompts/PromptsPage.vue'),
  '/queues/:id?': () => import('../areas/queues/QueuesPage.vue'),
  '/ring-groups/:id?': () => import('../areas/ring-groups/RingGroupsPage.vue'),
  '/queues/:id/compare': () => import('../areas/queues/ComparePage.vue'),
  '/numbers/:id?': () => import('../areas/numbers/NumbersPage.vue'),
  '/trunks/:id?': () => import('../areas/trunks/TrunksPage.vue'),
  '/dialling/:id?': () => import('../areas/dialling/DiallingPage.vue'),
  '/destinations/:id?': () => import('../areas/destinations/DestinationsPage.vue'),
  '/voicemail/:id?': () => import('../areas/voicemail/VoicemailPage.vue'),
  '/records/:id?': () => import('../areas/records/RecordsPage.vue'),
  '/sources/:id?': () => import('../areas/sources/SourcesPage.vue'),
  '/campaigns': () => import('../areas/campaigns/CampaignsPage.vue'),
  '/campaigns/:id': () => import('../areas/campaigns/CampaignPage.vue'),
  '/opt-outs': () => import('../areas/opt-outs/OptOutsPage.vue'),
  '/blocked/:id?': () => import('../areas/blocked/BlockedPage.vue'),
  '/codes/:id?': () => import('../areas/codes/CodesPage.vue'),
  '/script-keys/:id?': () => import('../areas/script-keys/ScriptKeysPage.vue'),
  '/floor': () => import('../areas/floor/FloorPage.vue'),
  '/desk': () => import('../areas/desk/DeskPage.vue'),
  '/calls': () => import('../areas/calls/CallsPage.vue'),
  '/calls/:id': () => import('../areas/calls/CallPage.vue'),
  '/surveys': () => import('../areas/surveys/SurveysPage.vue'),
  '/set-aside': () => import('../areas/set-aside/SetAsidePage.vue'),
  '/changes': () => import('../areas/changes/ChangesPage.vue'),
  '/stand-ins': () => import('../areas/stand-ins/StandInsPage.vue'),
};

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    ...Object.entries(pages).map(([path, component]) => ({ path, component, props: path.includes(':') })),
    { path: '/:rest(.*)', component: () => import('./NotFound.vue') },
  ],
});

router.beforeEach((to) => {
  const session = useSession();
  // An agent's first page is their desk.
  if (session.role === 'agent' && !/^\/(desk|calls)(\/|$)/.test(to.path)) return '/desk';
  return true;
});
