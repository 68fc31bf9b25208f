import { afterAll, beforeAll, expect, test } from 'vitest';
import type { PlanView } from '@night-bell/core/contracts/plans';
import type { PlanDocument } from '@night-bell/core/plan/document';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn } from '../../server.testing.ts';

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
});
afterAll(() => drop());

const ends: PlanDocument = { start: 's1', steps: { s1: { kind: 'end', config: {}, exits: {} } } };
const empty: PlanDocument = { start: null, steps: {} };

test('supervisors of a team change a plan, and publish it, when the plan says so', async () => {
  const team = (await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Freight' })).body;
  const other = (await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Groups' })).body;
  const looksAfter = [team.id];
  const { browser: chief } = await personSignedIn(night, admin, 'Chief', 'supervisor', { looksAfter });
  const { browser: stranger } = await personSignedIn(night, admin, 'Stranger', 'supervisor', {
    looksAfter: [other.id],
  });
  const { browser: auditor } = await personSignedIn(night, admin, 'Reader', 'auditor');
  const made = (await admin.send<PlanView>('POST', '/api/plans', { name: 'Freight', document: empty })).body;
  expect(made.rights).toEqual({ teamId: null, publishes: false });

  const url = `/api/plans/${made.id}`;
  const now = async () => (await admin.send<{ item: PlanView }>('GET', url)).body.item;
  const change = async (who: Browser, document: PlanDocument) =>
    who.send<{ detail: string }>(
      'PUT',
      url,
      { name: 'Freight', document },
      {
        'if-match': `"${(await now()).version}"`,
      },
    );
  const publish = async (who: Browser) =>
    who.send<{ detail: string }>('POST', `${url}/publish`, {}, { 'if-match': `"${(await now()).version}"` });
  const later = (who: Browser) =>
    who.send('POST', `${url}/schedule`, { publishAt: Date.now() + 3_600_000, backAt: null });
  const rights = (body: object, who = admin) => who.send('POST', `${url}/rights`, body);

  const refused = await change(chief, ends);
  expect([refused.status, refused.body.detail]).toEqual([
    403,
    'Freight is not yours to change. An administrator can let the supervisors of a team do it.',
  ]);
  // Whoever may work at it does not say who else may.
  expect((await rights({ teamId: team.id, publishes: true }, chief)).status).toBe(403);

  expect((await rights({ teamId: team.id, publishes: false })).status).toBe(200);
  expect((await change(chief, ends)).status).toBe(200);
  expect((await now()).rights).toEqual({ teamId: team.id, publishes: false });
  expect([(await publish(chief)).status, (await later(chief)).status]).toEqual([403, 403]);
  expect([(await change(stranger, empty)).status, (await change(auditor, empty)).status]).toEqual([403, 403]);
  expect((await chief.send('POST', `${url}/retire`, {}, { 'if-match': '"1"' })).status).toBe(403);

  await rights({ teamId: team.id, publishes: true });
  expect((await publish(chief)).status).toBe(200);
  expect((await now()).published).toMatchObject({ version: 1, by: 'Chief' });
  expect((await publish(stranger)).status).toBe(403);
  // The team is used by the plan, and is said to be.
  const gone = await admin.send<{ detail: string }>(
    'POST',
    `/api/teams/${team.id}/retire`,
    {},
    { 'if-match': '"1"' },
  );
  expect([gone.status, gone.body.detail]).toEqual([409, expect.stringContaining('Freight')]);
  expect((await rights({ teamId: made.id, publishes: false })).status).toBe(422);
});

test('a session says whom a supervisor looks after', async () => {
  const team = (await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Night' })).body;
  const { browser } = await personSignedIn(night, admin, 'Night chief', 'supervisor', {
    looksAfter: [team.id],
  });
  const session = await browser.send<{ person: { looksAfter: string[] } }>('GET', '/api/session');
  expect(session.body.person.looksAfter).toEqual([team.id]);
});
