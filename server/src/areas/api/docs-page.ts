import type Joi from 'joi';
import { escapeHtml, plainPage } from '../../http/plain-page.ts';
import type { Route } from '../../http/route.ts';

/** The API as one plain page: no script, nothing loaded. */
export function docsPage(routes: Route[], nonce: string): string {
  const areas = [...new Set(routes.map((route) => route.area))];
  const sections = areas.map((area) => {
    const rows = routes.filter((route) => route.area === area).map(row);
    return `<h2>${escapeHtml(area)}</h2><table><thead><tr><th>Call</th><th>What it does</th><th>Open to</th><th>Takes</th></tr></thead><tbody>${rows.join('')}</tbody></table>`;
  });
  const body = `<h1>Night Bell API</h1><p>Sign in with POST /api/session; the cookie it sets goes with every call, and calls that change something carry the token of
GET /api/session as <code>X-Night-Bell-Token</code>. Errors are problem details (RFC 9457). For programs: <a href="/api/openapi.json">OpenAPI 3.1</a>.</p>
${sections.join('')}`;
  return plainPage('Night Bell API', body, nonce);
}

function row(route: Route): string {
  const who = typeof route.who === 'string' ? route.who : route.who.join(', ');
  const takes = [
    ...fields(route.params),
    ...fields(route.query),
    ...fields(route.body),
    ...(route.ifMatch === true ? ['If-Match'] : []),
  ];
  return `<tr><td><code>${route.method} ${escapeHtml(route.path)}</code></td><td>${escapeHtml(route.summary)}</td><td>${escapeHtml(who)}</td><td>${takes
    .map(escapeHtml)
    .join(', ')}</td></tr>`;
}

function fields(schema: Joi.ObjectSchema): string[] {
  const described = schema.describe() as { keys?: Record<string, { flags?: { presence?: string } }> };
  return Object.entries(described.keys ?? {}).map(([name, each]) =>
    each.flags?.presence === 'required' ? name : `${name}?`,
  );
}
