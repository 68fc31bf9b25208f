import Joi from 'joi';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import {
  Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  startServer,
} from '../server.testing.ts';
import { openApi, plainPattern } from './openapi.ts';
import { problems } from './problems.ts';
import type { Route } from './route.ts';
import { sockets } from './sockets.ts';

let night: NightBell;
let drop: () => Promise<void>;
let byRole: Record<string, Browser>;

beforeAll(async () => {
  const fresh = await freshDatabase();
  night = await startServer(fresh.database);
  const administrator = await firstAdministrator(night, fresh.database);
  byRole = {
    administrator,
    supervisor: (await personSignedIn(night, administrator, 'Sue Visor', 'supervisor')).browser,
    agent: (await personSignedIn(night, administrator, 'Ann Gent', 'agent')).browser,
    auditor: (await personSignedIn(night, administrator, 'Otto Audit', 'auditor')).browser,
  };
  drop = async () => {
    await night.close();
    await fresh.drop();
  };
});
afterAll(() => drop());

const id = '00000000-0000-7000-8000-000000000000';
const path = (route: Route) => route.path.replace(':id', route.path.includes('changes') ? '1' : id);

describe('every route', () => {
  test('that the server knows is declared, or a socket that says who may open it', () => {
    const { paths } = night;
    expect(paths.length).toBeGreaterThan(30);
    const declared = new Set([...night.routes.map((route) => route.path), ...Object.keys(sockets)]);
    expect(paths.filter((each) => !declared.has(each))).toEqual([]);
  });

  test('has roles, schemas that are schemas, a summary, and known problems', () => {
    for (const route of night.routes) {
      const name = `${route.method} ${route.path}`;
      expect(
        route.who === 'anybody' || route.who === 'newcomer' || route.who.length > 0,
        `${name}: who`,
      ).toBe(true);
      for (const part of ['params', 'query', 'body', 'reply'] as const)
        expect(Joi.isSchema(route[part]), `${name}: ${part}`).toBe(true);
      expect(route.summary.length, name).toBeGreaterThan(5);
      for (const code of route.errors) expect(Object.keys(problems)).toContain(code);
      const named = Object.keys((route.params.describe() as { keys?: object }).keys ?? {});
      expect(
        [...route.path.matchAll(/:(\w+)/g)].map((match) => match[1]),
        `${name}: params`,
      ).toEqual(named);
    }
  });

  test('refuses whoever is not signed in, and every role it does not name', async () => {
    for (const route of night.routes) {
      if (route.who === 'anybody') continue;
      const name = `${route.method} ${route.path}`;
      expect(
        (await new Browser(night).send(route.method, path(route), route.method === 'GET' ? undefined : {}))
          .status,
        name,
      ).toBe(401);
      if (route.who === 'newcomer') continue;
      for (const [role, browser] of Object.entries(byRole)) {
        if (route.who.includes(role as never)) continue;
        const answer = await browser.send<{ code: string }>(
          route.method,
          path(route),
          route.method === 'GET' ? undefined : {},
        );
        expect([answer.status, answer.body.code], `${name} as ${role}`).toEqual([403, 'notAllowed']);
      }
    }
  });

  test('that changes something refuses a request without the token', async () => {
    const browser = byRole.administrator!;
    const answer = await browser.send<{ code: string }>(
      'POST',
      '/api/people',
      { name: 'Forged' },
      { 'x-night-bell-token': 'wrong' },
    );
    expect([answer.status, answer.body.code]).toEqual([403, 'forgedRequest']);
  });
});

test('the API document names every route, who may call it and its problems', () => {
  const document = openApi(night.routes) as {
    paths: Record<string, Record<string, { 'x-who': unknown; responses: object }>>;
  };
  for (const route of night.routes) {
    const operation = document.paths[route.path.replace(/:(\w+)/g, '{$1}')]?.[route.method.toLowerCase()];
    expect(operation?.['x-who'], route.path).toEqual(route.who);
    for (const code of route.errors)
      expect(Object.keys(operation!.responses)).toContain(String(problems[code].status));
  }
});

test('the API document says how to come in, calls each operation by a name of its own, and its patterns match', () => {
  interface Operation {
    operationId: string;
    security: object[];
    tags: string[];
  }
  const document = openApi(night.routes) as { paths: Record<string, Record<string, Operation>> };
  const operations = Object.values(document.paths).flatMap((each) => Object.values(each));
  expect(new Set(operations.map(({ operationId }) => operationId)).size).toBe(night.routes.length);
  const of = (id: string) => operations.find(({ operationId }) => operationId === id)?.security;
  expect(of('getCallsById')).toEqual([{ key: [] }, { signIn: [] }]);
  expect(of('postScriptKeysByIdSecret')).toEqual([{ signIn: [] }]);
  expect(of('getHealth')).toEqual([]);
  const patterns = [...JSON.stringify(document).matchAll(/"pattern":("(?:[^"\\\\]|\\\\.)*")/g)].map(
    ([, pattern]) => JSON.parse(pattern!) as string,
  );
  expect(patterns.length).toBeGreaterThan(20);
  for (const pattern of patterns) {
    expect(() => new RegExp(pattern, 'u'), pattern).not.toThrow();
    expect(pattern).not.toMatch(/[^\\]\/[a-z]*$|^\/\^/);
  }
});

test.each([
  ['/^a$/u', '^a$'],
  ['^a$/u', '^a$'],
  ['^https?:\\/\\/', '^https?:\\/\\/'],
])('the pattern %s is %s', (left, plain) => {
  expect(plainPattern(left)).toBe(plain);
});

test('answers carry the security headers, problems are problem details', async () => {
  const response = await night.app.inject('/api/nothing');
  expect(response.statusCode).toBe(404);
  expect(response.headers['content-type']).toContain('application/problem+json');
  expect(response.json()).toMatchObject({ status: 404, code: 'notFound', type: '/api/problems#notFound' });
  const policy = String(response.headers['content-security-policy']);
  expect(policy).toContain("script-src 'self'");
  expect(policy).not.toContain('unsafe-eval');
  expect(response.headers['x-content-type-options']).toBe('nosniff');
  expect((await night.app.inject('/api/docs')).body).toContain('POST /api/test-calls');
});
