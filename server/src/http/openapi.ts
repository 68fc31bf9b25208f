import joiToJsonModule from 'joi-to-json';
import type Joi from 'joi';
import { closedToScripts } from '../security/script-callers.ts';
import { problems, type ProblemCode } from './problems.ts';
import type { Route } from './route.ts';

/** The package's types name a default export that its CommonJS build is itself. */
const joiToJson = joiToJsonModule as unknown as (schema: Joi.Schema, mode: string) => Record<string, unknown>;

/** Problems every route with a sign-in can answer with. */
const common: ProblemCode[] = ['invalidInput', 'malformed', 'tooMany', 'databaseAway', 'broken'];

/** The OpenAPI 3.1 document of all declared routes. */
export function openApi(routes: Route[]): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of [...routes].sort((one, other) => order(one, other))) {
    const path = route.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[route.method.toLowerCase()] = operation(route);
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Night Bell',
      version: '1',
      license: { name: 'All rights reserved' },
      description:
        'A script sends its key with each request (Authorization: Bearer). Who signed in has a cookie, and requests other than GET carry the header X-Night-Bell-Token with the token of GET /api/session. Errors are problem details (RFC 9457).',
    },
    servers: [{ url: '/', description: 'This installation' }],
    paths,
    components: {
      schemas: { Problem: problemSchema },
      securitySchemes: {
        key: { type: 'http', scheme: 'bearer', description: 'A key of a script' },
        signIn: { type: 'apiKey', in: 'cookie', name: 'night-bell', description: 'Set by POST /api/session' },
      },
    },
  };
}

function order(one: Route, other: Route): number {
  return one.path < other.path ? -1 : one.path > other.path ? 1 : one.method < other.method ? -1 : 1;
}

const replayKey = {
  ...{ name: 'Idempotency-Key', in: 'header', required: false, schema: { type: 'string', maxLength: 255 } },
  description:
    'Sent again with the same key within a day, nothing is done twice: the answer is the first one.',
};
const pageHeaders = {
  Link: {
    description: 'Where the next stretch of the list is (RFC 8288, rel="next"); absent at its end.',
    schema: { type: 'string' },
  },
  'Total-Count': {
    description: 'How many fit in all, when the request said total=true.',
    schema: { type: 'integer' },
  },
};
const aFile = { type: 'string', format: 'binary' };

function operation(route: Route): Record<string, unknown> {
  const parameters = [
    ...parametersOf(route.params, 'path'),
    ...parametersOf(route.query, 'query'),
    ...(route.method === 'POST' && route.who !== 'anybody' ? [replayKey] : []),
    ...(route.ifMatch === true
      ? [{ name: 'If-Match', in: 'header', required: true, schema: { type: 'string', pattern: '^"\\d+"$' } }]
      : []),
  ];
  const body = jsonSchema(route.body);
  const hasBody =
    route.method !== 'GET' && Object.keys((body.properties as object | undefined) ?? {}).length > 0;
  const reply = jsonSchema(route.reply);
  const empty = reply.type === 'null' || (reply.const === null && 'const' in reply);
  return {
    tags: [route.area],
    summary: route.summary,
    description: `Open to: ${typeof route.who === 'string' ? route.who : route.who.join(', ')}.`,
    operationId: operationId(route),
    security: securityOf(route),
    'x-who': route.who,
    parameters,
    ...(hasBody
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: body, ...exampleOf(route) } },
          },
        }
      : route.takes !== undefined
        ? { requestBody: { required: true, content: { [route.takes]: { schema: aFile } } } }
        : {}),
    responses: {
      ...(empty
        ? { 204: { description: 'Done' } }
        : {
            200: {
              description: 'Done',
              ...(route.pages === true ? { headers: pageHeaders } : {}),
              content: { 'application/json': { schema: reply } },
            },
          }),
      ...problemResponses(route),
    },
  };
}

const exampleOf = ({ example }: Route) => (example === undefined ? {} : { example });

/** 'postPlansByIdPublish': of method and path, which no two routes share. */
function operationId({ method, path }: Route): string {
  const words = path.replace(/^\/api\//, '').split(/[/.-]/);
  const named = words.map((word) => (word.startsWith(':') ? `by-${word.slice(1)}` : word).split('-'));
  return (
    method.toLowerCase() +
    named
      .flat()
      .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
      .join('')
  );
}

function securityOf({ who, area }: Route): Record<string, string[]>[] {
  if (who === 'anybody') return [];
  return closedToScripts.has(area) ? [{ signIn: [] }] : [{ key: [] }, { signIn: [] }];
}

function parametersOf(schema: Joi.ObjectSchema, place: 'path' | 'query') {
  const json = jsonSchema(schema);
  const required = new Set((json.required as string[] | undefined) ?? []);
  return Object.entries((json.properties as Record<string, unknown> | undefined) ?? {}).map(
    ([name, each]) => ({
      name,
      in: place,
      required: place === 'path' || required.has(name),
      schema: each,
    }),
  );
}

function problemResponses(route: Route): Record<string, unknown> {
  const codes = [
    ...common,
    ...(route.who === 'anybody' ? [] : (['notSignedIn', 'notAllowed'] as const)),
    ...route.errors,
  ];
  const byStatus = new Map<number, ProblemCode[]>();
  for (const code of new Set(codes)) {
    const { status } = problems[code];
    byStatus.set(status, [...(byStatus.get(status) ?? []), code]);
  }
  return Object.fromEntries(
    [...byStatus].map(([status, each]) => [
      status,
      {
        description: each.map((code) => `${code}: ${problems[code].title}`).join('. '),
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    ]),
  );
}

function jsonSchema(schema: Joi.Schema): Record<string, unknown> {
  return withPlainPatterns(joiToJson(schema, 'open-api-3.1')) as Record<string, unknown>;
}

/** The package leaves the flags of a pattern at its end, where they would have to match. */
function withPlainPatterns(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withPlainPatterns);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([name, each]) => !(isBound(name) && typeof each === 'object'))
      .map(([name, each]) => [
        name,
        name === 'pattern' && typeof each === 'string' ? plainPattern(each) : withPlainPatterns(each),
      ]),
  );
}

/** A bound that is another field's value has no words in a JSON schema; the package writes an object. */
const isBound = (name: string) => /^(exclusive)?(minimum|maximum)$/i.test(name);

export function plainPattern(pattern: string): string {
  const whole = /^\/(.*)\/[dgimsuvy]*$/s.exec(pattern)?.[1];
  return whole ?? pattern.replace(/\/[dgimsuvy]+$/, '');
}

const problemSchema = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail', 'code', 'errors'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string', description: 'A sentence a person can act on.' },
    code: { type: 'string', enum: Object.keys(problems) },
    errors: {
      type: 'array',
      items: {
        type: 'object',
        required: ['path', 'detail'],
        properties: { path: { type: 'string' }, detail: { type: 'string' } },
      },
    },
    current: { description: 'On changedMeanwhile: the thing as it is now.' },
    usedBy: { description: 'On inUse: what still leads here.' },
  },
};
