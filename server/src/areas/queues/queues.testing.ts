import type { QueueView } from '@night-bell/core/contracts/queues';
import { compileConfiguration } from '../../live/compile.ts';
import { openNight } from '../../server.testing.ts';

export interface Refused {
  detail: string;
  errors: { path: string; detail: string }[];
}

/** A company with a team and two people, and what tests of queues do again and again. */
export async function openQueues() {
  const night = await openNight();
  const { admin, database } = night;
  const make = async (url: string, body: object) =>
    (await admin.send<{ id: string }>('POST', url, body)).body;
  const read = async (id: string) =>
    (await admin.send<{ item: QueueView }>('GET', `/api/queues/${id}`)).body.item;
  const crew = (await make('/api/teams', { name: 'Crew' })).id;
  const ines = (await make('/api/people', { name: 'Ines Calloway', teamId: crew })).id;
  const omar = (await make('/api/people', { name: 'Omar Haddad' })).id;
  return {
    ...{ ...night, make, read, crew, ines, omar },
    /** Saves it as it is, but for `change`. */
    write: async (id: string, change: object) => {
      const {
        id: _id,
        version,
        retired: _retired,
        voicemailBoxId: _box,
        peopleCount: _count,
        ...draft
      } = await read(id);
      const body = { ...draft, ...change };
      return admin.send<Refused>('PUT', `/api/queues/${id}`, body, { 'if-match': `"${version}"` });
    },
    compiled: async (id: string) =>
      (await compileConfiguration(database)).queues.find((queue) => queue.id === id)!,
  };
}
