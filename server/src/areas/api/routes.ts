import Joi from 'joi';
import { openApi } from '../../http/openapi.ts';
import { problems } from '../../http/problems.ts';
import { nothing, route, type Route } from '../../http/route.ts';
import { docsPage } from './docs-page.ts';

/** The API's own description. `all` is every declared route, these included. */
export function apiRoutes(all: () => Route[]): Route[] {
  // Made once: it takes a quarter of a second, and anybody may ask for it.
  let document: Record<string, unknown> | null = null;
  return [
    route({
      method: 'GET',
      path: '/api/openapi.json',
      area: 'API',
      summary: 'This API as an OpenAPI 3.1 document',
      who: 'anybody',
      reply: Joi.object().unknown(true),
      errors: [],
      handle: () => Promise.resolve((document ??= openApi(all()))),
    }),
    route({
      method: 'GET',
      path: '/api/docs',
      area: 'API',
      summary: 'This API as a page to read',
      who: 'anybody',
      reply: nothing.allow(null),
      errors: [],
      handle: ({ reply }) => {
        void reply.type('text/html; charset=utf-8').send(docsPage(all(), reply.cspNonce.style));
        return Promise.resolve(null);
      },
    }),
    route({
      method: 'GET',
      path: '/api/problems',
      area: 'API',
      summary: 'Every problem the API can answer with',
      who: 'anybody',
      reply: Joi.object().unknown(true),
      errors: [],
      handle: () => Promise.resolve(problems),
    }),
  ];
}
