import type { Person } from '../../api/client.ts';
import type { Answers } from '../../page.testing.ts';

/** Somebody as the server tells of them. */
export const somebody = (more: Partial<Person> = {}): Person =>
  ({
    ...{ id: 'p', version: 4, retired: false, name: 'Ines Calloway', login: 'ines.calloway', role: 'agent' },
    ...{ mail: null, extension: '2104', teamId: 't', teamName: 'Bookings', callLimit: 1, ringSeconds: 20 },
    ...{ signInWithPhone: false, startAway: false, answerBySelf: false, wrapUpSeconds: null },
    ...{ elsewhere: 'warn', hasOwnPassword: true, skills: [], looksAfter: [], noAnswer: [] },
    ...{ outsideNumber: null, phones: [], queues: [], voicemailBoxId: null },
    ...more,
  }) as unknown as Person;

export const team = (id: string, name: string, people = 0) => ({
  ...{ id, name, people, version: 1, retired: false, emergencyAddress: null },
});

/** What every sheet of a person asks for. */
export const around: Answers = {
  ...{ 'GET /api/teams': [team('t', 'Bookings', 3), team('u', 'Refunds')], 'GET /api/skills': [] },
  ...{ 'GET /api/trunks': [], 'GET /api/queues': [], 'GET /api/plans': [], 'GET /api/outside-numbers': [] },
  ...{ 'GET /api/rooms': [], 'GET /api/fax-boxes': [], 'GET /api/items/p/history': [] },
  'GET /api/agent-settings': { version: 1, seats: null, seatsUsed: 4, awayReasons: ['break', 'lunch'] },
  'GET /api/calls': { calls: [], totals: [], more: false },
};
