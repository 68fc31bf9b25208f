import type Joi from 'joi';
import type { Route } from '../../http/route.ts';

/** The API as one plain page: no script, nothing loaded. */
export function docsPage(routes: Route[]): string {
  const areas = [...new Set(routes.map((route) => route.area))];
  const sections = areas.map((area) => {
    const rows = routes.filter((route) => route.area === area).map(row);
    return `<h2>${escape(area)}</h2><table><thead><tr><th>Call</th><th>What it does</th><th>Open to</th><th>Takes</th></tr></thead><tbody>${rows.join('')}</tbody></table>`;
  });
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Night Bell API</title><style>${style}</style></head><body>
<h1>Night Bell API</h1><p>Sign in with POST /api/session; the cookie it sets goes with every call, and calls that change something carry the token of
GET /api/session as <code>X-Night-Bell-Token</code>. Errors are problem details (RFC 9457). For programs: <a href="/api/openapi.json">OpenAPI 3.1</a>.</p>
${sections.join('')}</body></html>`;
}

function row(route: Route): string {
  const who = typeof route.who === 'string' ? route.who : route.who.join(', ');
  const takes = [
    ...fields(route.params),
    ...fields(route.query),
    ...fields(route.body),
    ...(route.ifMatch === true ? ['If-Match'] : []),
  ];
  return `<tr><td><code>${route.method} ${escape(route.path)}</code></td><td>${escape(route.summary)}</td><td>${escape(who)}</td><td>${takes
    .map(escape)
    .join(', ')}</td></tr>`;
}

function fields(schema: Joi.ObjectSchema): string[] {
  const described = schema.describe() as { keys?: Record<string, { flags?: { presence?: string } }> };
  return Object.entries(described.keys ?? {}).map(([name, each]) =>
    each.flags?.presence === 'required' ? name : `${name}?`,
  );
}

function escape(text: string): string {
  return text.replace(/[&<>"]/g, (character) => `&#${character.charCodeAt(0)};`);
}

const style =
  'body{font:14px/1.5 sans-serif;margin:2rem auto;max-width:70rem;padding:0 1rem;color:#17232b;background:#f3f6ee}table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:4px 8px;border-bottom:1px solid #d3dccf;vertical-align:top}code{font-size:13px}h2{margin-top:2rem}';
