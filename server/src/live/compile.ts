import type { Knex } from 'knex';
import { type Configuration, defaultSettings, directPlan } from '@night-bell/core/model/configuration';
import { listNumbers } from '../areas/numbers/store.ts';
import { listPeople } from '../areas/people/store.ts';
import { listQueues } from '../areas/queues/store.ts';

/** Compiles the set-up in the database into the snapshot the exchange reads. Only what is in use is in it. */
export async function compileConfiguration(database: Knex): Promise<Configuration> {
  const people = (await listPeople(database)).filter((person) => !person.retired);
  const queues = (await listQueues(database)).filter((queue) => !queue.retired);
  const numbers = await listNumbers(database);
  const boxes = await database('voicemail_box as v')
    .join('item as i', 'i.id', 'v.id')
    .join('item as o', 'o.id', 'v.owner_id')
    .whereNull('o.retired_at')
    .orderBy('v.id')
    .select<{ id: string; name: string; greeting_seconds: number; max_message_seconds: number }[]>(
      'v.id',
      'i.name',
      'v.greeting_seconds',
      'v.max_message_seconds',
    );
  const byTeam = new Map<string, string[]>();
  for (const person of people) {
    if (person.teamId !== null) byTeam.set(person.teamId, [...(byTeam.get(person.teamId) ?? []), person.id]);
  }
  const inUse = new Set(people.map((person) => person.id));
  const resolve = (members: string[]) => [
    ...new Set(members.flatMap((member) => byTeam.get(member) ?? (inUse.has(member) ? [member] : []))),
  ];
  return {
    settings: defaultSettings,
    people: people.map((person) => ({
      id: person.id,
      name: person.name,
      extension: person.extension === '' ? null : person.extension,
      callLimit: person.callLimit,
      ringSeconds: person.ringSeconds,
      signInWithPhone: person.signInWithPhone,
      voicemailBoxId: person.voicemailBoxId,
    })),
    phones: people.flatMap(({ id, phone }) =>
      phone === null ? [] : [{ id: phone.id, personId: id, account: phone.account }],
    ),
    queues: queues.map((queue) => ({
      id: queue.id,
      name: queue.name,
      extension: queue.extension,
      priority: queue.priority,
      ringSeconds: queue.ringSeconds,
      wrapUpSeconds: queue.wrapUpSeconds,
      members: resolve(queue.members),
      maxWaiting: queue.maxWaiting,
      whenFull: queue.whenFull,
      maxWaitSeconds: queue.maxWaitSeconds,
      whenTooLong: queue.whenTooLong,
      whenNobody: queue.whenNobody,
    })),
    numbers: numbers.map((number) => ({
      id: number.id,
      e164: number.e164,
      label: number.label,
      plan: number.destination === null ? null : directPlan(number.id, number.version, number.destination),
    })),
    voicemailBoxes: boxes.map((box) => ({
      id: box.id,
      name: box.name,
      greetingSeconds: box.greeting_seconds,
      maxMessageSeconds: box.max_message_seconds,
    })),
  };
}
