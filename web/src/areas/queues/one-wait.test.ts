import { expect, test } from 'vitest';
import { oneWait } from './one-wait.ts';

const plain = {
  ...{ members: ['a', 'b', 'c'], turns: [], joins: [], skills: [] },
  ...{ maxWaitSeconds: null, announceSeconds: null },
};

test('members who may be rung alike stand on one line, by turn and then by when they join', () => {
  const turns = [{ memberId: 'a', turn: 2 }];
  const joins = [{ memberId: 'b', afterSeconds: 60 }];
  expect(oneWait({ ...plain, turns, joins }).rows).toEqual([
    { turn: 1, from: 0, memberIds: ['c'] },
    { turn: 1, from: 60, memberIds: ['b'] },
    { turn: 2, from: 0, memberIds: ['a'] },
  ]);
  expect(oneWait(plain).rows).toHaveLength(1);
});

test('it ends with the longest wait; without one it is drawn as far as something happens', () => {
  expect(oneWait({ ...plain, maxWaitSeconds: 300 })).toMatchObject({ until: 300, ends: true });
  expect(oneWait(plain)).toMatchObject({ until: 120, ends: false });
  const joins = [{ memberId: 'b', afterSeconds: 200 }];
  expect(oneWait({ ...plain, joins })).toMatchObject({ until: 260, ends: false, stages: [200] });
  expect(oneWait({ ...plain, maxWaitSeconds: 7_200 })).toMatchObject({ ends: false, until: 120 });
});

test('announcements are knots up to the end; what is half typed is not drawn', () => {
  expect(oneWait({ ...plain, maxWaitSeconds: 100, announceSeconds: 30 }).knots).toEqual([30, 60, 90]);
  expect(oneWait({ ...plain, maxWaitSeconds: 90, announceSeconds: 30 }).knots).toEqual([30, 60]);
  expect(oneWait({ ...plain, announceSeconds: '' as never }).knots).toEqual([]);
  const skills = [{ skillId: 's', minimum: 3, relaxes: [{ afterSeconds: '' as never, minimum: 1 }] }];
  expect(oneWait({ ...plain, skills }).levels).toEqual([{ skillId: 's', from: 0, minimum: 3 }]);
});
