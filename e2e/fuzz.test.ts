import { randomUUID } from 'node:crypto';
import pino from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Browser, openNight, password } from '../server/src/server.testing.ts';
import type { NightBell } from '../server/src/app.ts';
import { seeded } from './abuse/figures.testing.ts';

/**
 * Malformed requests made from the API's own document: every route, by every role and by nobody, with fields missing,
 * of other types, too long, absurd. Seeded, so that what is found is found again; NIGHT_BELL_FUZZ sets how many.
 */
const requests = Number(process.env.NIGHT_BELL_FUZZ ?? 5_000);
const seed = Number(process.env.NIGHT_BELL_FUZZ_SEED ?? 1);

interface Schema {
  type?: string | string[];
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  enum?: unknown[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  format?: string;
  pattern?: string;
  minimum?: number;
  maximum?: number;
  minLength?: number;
  minItems?: number;
}
interface Operation {
  parameters: { name: string; in: string; schema: Schema }[];
  requestBody?: { content: Record<string, { schema: Schema }> };
}

const json = 'application/json';
let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
const people: Browser[] = [];
/** What the server logged of faults. */
const said: string[] = [];
/** Ids that exist, so that requests get behind the first look-up. */
const ids: string[] = [];

beforeAll(async () => {
  const logger = pino({ level: 'error' }, { write: (line: string) => void said.push(line) });
  ({ night, admin, drop } = await openNight(undefined, [], { logger, checkReplies: false }));
  const post = async (path: string, body: object) => {
    const { body: made } = await admin.send<{ id: string }>('POST', path, body);
    ids.push(made.id);
    return made.id;
  };
  const person = await post('/api/people', { name: 'Some Body' });
  await post('/api/teams', { name: 'Some Team' });
  const queue = await post('/api/queues', { name: 'Some Queue', members: [person] });
  await post('/api/numbers', {
    e164: '+12065550140',
    label: 'Main',
    destination: { kind: 'queue', id: queue },
  });
  await post('/api/trunks', { name: 'Lines', host: 'provider.example', account: 'ours', channels: 4 });
  await post('/api/campaigns', { name: 'Winter', queueId: queue, ratio: 2 });
  await post('/api/rooms', { name: 'Briefing' });
  await post('/api/dialling-rules', { name: 'All', pattern: '+x.' });
  people.push(admin, new Browser(night));
});
afterAll(() => drop());

const random = seeded(seed);
const below = (count: number) => Math.floor(random() * count);
const pick = <T>(list: readonly T[]): T => list[below(list.length)]!;

const absurd: readonly unknown[] = [
  null,
  true,
  0,
  -1,
  1.5,
  2 ** 31,
  2 ** 53,
  -(2 ** 63),
  1e308,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  '\u202e',
  'null',
  '0',
  '-1',
  '1e999',
  'NaN',
  '99999999999999999999',
  "'; drop table person; --",
  '<script>',
  '{{ contact.name }}',
  '../../etc/passwd',
  '%00',
  '2026-13-45',
  '0000-00-00',
  '+999999999999999999',
  'x'.repeat(5_000),
  'é'.repeat(300),
  [],
  [null],
  [[]],
  {},
  { kind: 'constructor' },
  { id: 7 },
  Array.from({ length: 1_200 }, () => 'x'),
  { a: { b: { c: { d: {} } } } },
];

/** An address cannot hold half of a character. */
const wellFormed = (text: string) => text.replace(/\p{Surrogate}/gu, '?');

/** Something that fits, more or less. */
function fitting(schema: Schema, depth = 0): unknown {
  const choice = schema.anyOf ?? schema.oneOf;
  if (choice !== undefined) return fitting(pick(choice), depth + 1);
  if (schema.enum !== undefined) return pick(schema.enum);
  const type = Array.isArray(schema.type) ? pick(schema.type) : schema.type;
  switch (type) {
    case 'object': {
      const entries = Object.entries(schema.properties ?? {});
      const required = new Set(schema.required ?? []);
      return Object.fromEntries(
        entries
          .filter(([name]) => required.has(name) || random() < 0.4)
          .map(([name, each]) => [name, random() < 0.12 ? pick(absurd) : fitting(each, depth + 1)]),
      );
    }
    case 'array':
      if (depth > 6) return [];
      return Array.from({ length: below(3) + (schema.minItems ?? 0) }, () =>
        fitting(schema.items ?? {}, depth + 1),
      );
    case 'integer':
      return (
        (schema.minimum ?? 0) + below(Math.min(50, (schema.maximum ?? 1_000) - (schema.minimum ?? 0) + 1))
      );
    case 'number':
      return (schema.minimum ?? 0) + random() * 3;
    case 'boolean':
      return random() < 0.5;
    case 'null':
      return null;
    default:
      if (schema.format === 'uuid') return random() < 0.7 ? pick(ids) : randomUUID();
      if (schema.format === 'date' || schema.format === 'date-time') return '2026-11-27';
      return pick([
        'a',
        'Some Name',
        pick(ids),
        '+12065550141',
        '2001',
        '12.50',
        '2026-11-01',
        'https://x.example',
      ]);
  }
}

test(`${requests} malformed requests: none is answered with a fault of ours`, async () => {
  const document = (
    await admin.send<{ paths: Record<string, Record<string, Operation>> }>('GET', '/api/openapi.json')
  ).body;
  const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
  );
  const statuses = new Map<number, number>();
  const faults: string[] = [];
  for (let i = 0; i < requests; i++) {
    const { path, method, operation } = pick(operations);
    const text = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));
    const query: [string, string][] = [];
    let url = path;
    for (const parameter of operation.parameters) {
      const value = text(random() < 0.25 ? pick(absurd) : fitting(parameter.schema)).slice(0, 2_000);
      if (parameter.in === 'path')
        url = url.replace(
          `{${parameter.name}}`,
          encodeURIComponent(random() < 0.6 ? pick(ids) : wellFormed(value)),
        );
      else if (parameter.in === 'query' && random() < 0.6) query.push([parameter.name, wellFormed(value)]);
    }
    if (query.length > 0) url += `?${new URLSearchParams(query).toString()}`;
    const [takes, content] = Object.entries(operation.requestBody?.content ?? {})[0] ?? [json, undefined];
    const schema = content?.schema;
    const body = method === 'GET' ? undefined : random() < 0.1 ? pick(absurd) : fitting(schema ?? {});
    const who = random() < 0.85 ? people[0]! : people[1]!;
    const headers: Record<string, string> = {
      'x-night-bell-token': who.token,
      cookie: who.cookieHeader,
      ...(random() < 0.7
        ? { 'if-match': pick(['"1"', '"2"', '"0"', '"99999999999"', 'W/"1"', '*', '"-1"', 'x']) }
        : {}),
      ...(random() < 0.08
        ? { origin: pick(['null', 'garbage', 'http://', 'http://elsewhere.example', '']) }
        : {}),
    };
    const raw =
      body === undefined || random() > 0.03 ? undefined : pick(['{', '', '[[[[', '"', '{"a":1}}', 'x=1']);
    const answer = await night.app.inject({
      method: method as 'GET',
      url,
      headers: {
        ...headers,
        ...(body === undefined
          ? {}
          : { 'content-type': random() < 0.95 ? takes : pick([json, 'text/csv', 'x']) }),
        ...(random() < 0.02
          ? { authorization: pick(['Bearer ', 'Bearer x', `Bearer bell_${'y'.repeat(43)}`]) }
          : {}),
      },
      ...(body === undefined ? {} : { payload: raw ?? JSON.stringify(body) }),
    });
    statuses.set(answer.statusCode, (statuses.get(answer.statusCode) ?? 0) + 1);
    if (answer.statusCode === 500)
      faults.push(
        `seed ${seed}, request ${i}: ${method} ${url.slice(0, 200)} ${JSON.stringify(headers['if-match'])} ${(raw ?? JSON.stringify(body) ?? '').slice(0, 400)}`,
      );
    // Some requests end the sign-in, as they should.
    if (answer.statusCode === 401 && who === people[0]) await admin.signIn('ada', password);
  }
  process.stdout.write(
    `  ${[...statuses]
      .sort(([a], [b]) => a - b)
      .map(([status, n]) => `${n} x ${status}`)
      .join(', ')}\n`,
  );
  expect(said, 'nothing was logged as a fault').toEqual([]);
  expect(faults, said.join('\n').slice(0, 4_000)).toEqual([]);
  // It got behind the checks, too.
  expect(statuses.get(200) ?? 0).toBeGreaterThan(requests / 20);
}, 600_000);
