import { objectSchema } from '@night-bell/core/contracts/item';
import { prompts } from '@night-bell/core/contracts/prompts';
import { itemRoutes } from '../../http/item-routes.ts';
import { publishRoute } from '../../http/publish-route.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { promptItem, publishPrompt } from './store.ts';

export function promptRoutes(services: Services): Route[] {
  return [
    ...itemRoutes(services, {
      ...prompts,
      draft: objectSchema(prompts.draft),
      view: objectSchema(prompts.view),
      store: promptItem,
    }),
    publishRoute(services, prompts, promptItem.get, publishPrompt),
  ];
}
