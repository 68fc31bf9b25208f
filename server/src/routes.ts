import { agentSettingsRoutes } from './areas/agent-settings/routes.ts';
import { apiRoutes } from './areas/api/routes.ts';
import { balanceRoutes } from './areas/balance/routes.ts';
import { callRoutes } from './areas/calls/routes.ts';
import { blockedRoutes } from './areas/blocked/routes.ts';
import { campaignRoutes } from './areas/campaigns/routes.ts';
import { passingRoutes } from './areas/desk/passing-routes.ts';
import { codeRoutes } from './areas/codes/routes.ts';
import { deskRoutes } from './areas/desk/routes.ts';
import { directoryRoutes } from './areas/directory/routes.ts';
import { faxBoxRoutes } from './areas/fax-boxes/routes.ts';
import { floorRoutes } from './areas/floor/routes.ts';
import { historyRoutes } from './areas/history/routes.ts';
import { hoursRoutes } from './areas/hours/routes.ts';
import { jobRoutes } from './areas/jobs/routes.ts';
import { homeRoutes } from './areas/home/routes.ts';
import { listViewRoutes } from './areas/list-views/routes.ts';
import { numberShopRoutes } from './areas/number-shop/routes.ts';
import type { Shop } from './areas/number-shop/shop.ts';
import { numberRoutes } from './areas/numbers/routes.ts';
import { operatingRoutes } from './areas/operating/routes.ts';
import { optOutRoutes } from './areas/opt-outs/routes.ts';
import { outsideRoutes } from './areas/outside/routes.ts';
import { peopleAccessRoutes } from './areas/people/access-routes.ts';
import { peopleRoutes } from './areas/people/routes.ts';
import { peopleListRoutes } from './areas/people/list-routes.ts';
import { enrolmentRoutes } from './areas/phones/enrolment-routes.ts';
import { lineKeyRoutes } from './areas/phones/line-key-routes.ts';
import { phoneRoutes } from './areas/phones/routes.ts';
import { planRoutes } from './areas/plans/routes.ts';
import { promptRoutes } from './areas/prompts/routes.ts';
import { queueRoutes } from './areas/queues/routes.ts';
import { recordRoutes } from './areas/records/routes.ts';
import { savedListRoutes } from './areas/saved-lists/routes.ts';
import { scriptKeyRoutes } from './areas/script-keys/routes.ts';
import { surveyRoutes } from './areas/surveys/routes.ts';
import { botRoutes } from './areas/bots/routes.ts';
import { recordingRoutes } from './areas/recordings/routes.ts';
import { regionRoutes } from './areas/regions/routes.ts';
import { ringGroupRoutes } from './areas/ring-groups/routes.ts';
import { roomRoutes } from './areas/rooms/routes.ts';
import { ruleRoutes } from './areas/rules/routes.ts';
import { setAsideRoutes } from './areas/set-aside/routes.ts';
import { sessionRoutes } from './areas/session/routes.ts';
import { skillRoutes } from './areas/skills/routes.ts';
import { sourceRoutes } from './areas/sources/routes.ts';
import { standInRoutes } from './areas/stand-ins/routes.ts';
import { textRoutes } from './areas/texts/routes.ts';
import { teamRoutes } from './areas/teams/routes.ts';
import { testCallRoutes } from './areas/test-calls/routes.ts';
import { trunkRoutes } from './areas/trunks/routes.ts';
import { voicemailRoutes } from './areas/voicemail/routes.ts';
import type { Route } from './http/route.ts';
import type { RecordSync } from './jobs/record-sync.ts';
import type { Gateways } from './live/gateways.ts';
import type { Metrics } from './live/metrics.ts';
import type { Services } from './services.ts';

/** Every route of the server, area by area. */
export function declaredRoutes(
  services: Services,
  gateways: Gateways,
  sync: RecordSync,
  shop: Shop | null,
  { metrics, metricsKey }: { metrics: Metrics; metricsKey: string | null },
): Route[] {
  const routes: Route[] = [
    ...sessionRoutes(services),
    ...homeRoutes(services, gateways),
    ...jobRoutes(services),
    ...scriptKeyRoutes(services, () => routes),
    ...operatingRoutes(services, metrics, metricsKey),
    ...setAsideRoutes(services),
    ...peopleRoutes(services),
    ...peopleListRoutes(services),
    ...peopleAccessRoutes(services),
    ...phoneRoutes(services, gateways),
    ...lineKeyRoutes(services, gateways),
    ...enrolmentRoutes(services),
    ...teamRoutes(services),
    ...skillRoutes(services),
    ...agentSettingsRoutes(services),
    ...queueRoutes(services),
    ...numberRoutes(services, shop),
    ...numberShopRoutes(services, shop),
    ...balanceRoutes(services),
    ...trunkRoutes(services, gateways),
    ...ruleRoutes(services),
    ...outsideRoutes(services),
    ...hoursRoutes(services),
    ...promptRoutes(services),
    ...planRoutes(services),
    ...ringGroupRoutes(services),
    ...roomRoutes(services),
    ...faxBoxRoutes(services),
    ...voicemailRoutes(services, gateways),
    ...campaignRoutes(services),
    ...optOutRoutes(services),
    ...blockedRoutes(services),
    ...listViewRoutes(services),
    ...codeRoutes(services),
    ...regionRoutes(services),
    ...botRoutes(services),
    ...recordingRoutes(services),
    ...surveyRoutes(services),
    ...recordRoutes(services, sync),
    ...sourceRoutes(services),
    ...deskRoutes(services),
    ...passingRoutes(services),
    ...directoryRoutes(services),
    ...savedListRoutes(services),
    ...historyRoutes(services),
    ...testCallRoutes(services),
    ...callRoutes(services),
    ...floorRoutes(services),
    ...standInRoutes(gateways),
    ...textRoutes(services),
    ...apiRoutes(() => routes),
  ];
  return routes;
}
