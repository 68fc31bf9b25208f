import { expect, test } from 'vitest';
import type { HomeView } from '../../api/client.ts';
import { firstCallSteps, isNew } from './first-call.ts';

const counts = (more: Partial<HomeView['counts']> = {}) =>
  new Proxy(more as HomeView['counts'], { get: (all, name) => (all as never)[name] ?? 0 });
const rang = (kind: string) => [{ kind }] as HomeView['ifSomeoneRang'];

test('signed in alone is not enough: the number has to reach somebody', () => {
  const at = (kind: string) =>
    firstCallSteps({ counts: counts({ signedIn: 1 }), ifSomeoneRang: rang(kind) }).staffed;
  expect([at('answered'), at('ended'), at('stillWaiting')]).toEqual([true, false, false]);
  expect(firstCallSteps({ counts: counts(), ifSomeoneRang: rang('answered') }).staffed).toBe(false);
});

test('the way is shown until the first call was answered, and to nobody who has built more than it asks for', () => {
  expect(isNew({ counts: counts({ people: 1 }) })).toBe(true);
  expect(isNew({ counts: counts({ people: 2, numbers: 1, queues: 1 }) })).toBe(true);
  for (const more of [{ callsReachedSomebody: 1 }, { numbers: 2 }, { plans: 1 }, { people: 40 }])
    expect(isNew({ counts: counts(more) })).toBe(false);
});
