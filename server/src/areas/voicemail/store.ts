import type { Knex } from 'knex';
import {
  type VoicemailBoxDraft,
  voicemailBoxes,
  type VoicemailBoxView,
} from '@night-bell/core/contracts/voicemail-boxes';
import type { VoicemailBoxItem } from '@night-bell/core/model/configuration';
import { pinHash } from '@night-bell/core/plan/steps/room';
import { Problem } from '../../http/problems.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';
import { announceChange, type Author, recordChange, type Reference, tellPages } from '../../spine/items.ts';

interface Row extends Omit<VoicemailBoxView, 'oldestFresh'> {
  oldestFresh: Date | null;
}

const countOf = (what: string, box = 't.id') =>
  `(select count(*)::int from message m where m.box_id = ${box} and m.deleted_at is null ${what})`;
const isFresh = `m.state = 'new' and m.deleted_at is null`;
const ownedBy = (kind: string) =>
  `select v.id from voicemail_box v join item o on o.id = v.owner_id where o.kind = '${kind}'`;

/** What a box names: its hours, its greetings, where it sends callers, who hears it. */
function referencesIn(draft: VoicemailBoxDraft): Reference[] {
  const { hoursId, greetings, whenFull, listeners } = draft;
  const prompts = [greetings.open, greetings.closed].flatMap(({ outside, inside }) => [outside, inside]);
  return [
    ...(hoursId === null ? [] : [{ to: hoursId, how: 'hours' }]),
    ...prompts.flatMap((to) => (to === null ? [] : [{ to, how: 'greeting' }])),
    ...(whenFull === null || whenFull.kind === 'end' ? [] : [{ to: whenFull.id, how: 'when full' }]),
    ...listeners.map((to) => ({ to, how: 'listener' })),
  ];
}

export const voicemailItem = defineItem<typeof voicemailBoxes.path, VoicemailBoxDraft, VoicemailBoxView, Row>(
  {
    kind: 'voicemail',
    contract: voicemailBoxes,
    word: 'voicemail box',
    table: 'voicemail_box',
    hasExtension: true,
    listing: {
      parts: {
        new: `select distinct m.box_id as id from message m where ${isFresh}`,
        shared: 'select v.id from voicemail_box v where v.owner_id is null',
        queue: ownedBy('queue'),
        ringGroup: ownedBy('ringGroup'),
        person: ownedBy('person'),
      },
      orders: {
        since: `coalesce((select extract(epoch from min(m.at)) from message m where m.box_id = l.id and ${isFresh}), 0)`,
        fresh: countOf(`and m.state = 'new'`, 'l.id'),
        held: countOf('', 'l.id'),
      },
      first: { part: 'new', by: 'since' },
    },
    columns: {
      hoursId: { column: 'hours_id' },
      greetings: { column: 'greetings', json: true },
      maxMessageSeconds: { column: 'max_message_seconds' },
      mostMessages: { column: 'most_messages' },
      keepDays: { column: 'keep_days' },
      whenFull: { column: 'when_full', json: true },
      listeners: { column: 'listeners', json: true },
      mailTo: { column: 'mail_to', json: true },
    },
    more: {
      ownerId: 't.owner_id',
      ownerKind: '(select kind from item where id = t.owner_id)',
      held: countOf(''),
      fresh: countOf(`and m.state = 'new'`),
      oldestFresh: `(select min(m.at) from message m where m.box_id = t.id and m.deleted_at is null and m.state = 'new')`,
      hasPin: 't.pin_hash is not null',
      uses: usesOf,
    },
    view: ({ oldestFresh, ...row }) => ({ ...row, oldestFresh: oldestFresh?.getTime() ?? null }),
    references: referencesIn,
    check: async (trx, draft, current) => {
      if (current !== null && current.ownerId !== null && draft.name !== current.name)
        throw Problem.field('/name', 'This box is called after its owner. Rename the owner, and it follows.');
      const named = referencesIn(draft);
      const known = new Map(
        (
          await trx('item')
            .whereRaw('id::text = any(?)', [named.map(({ to }) => to)])
            .select<{ id: string; kind: string; retired_at: Date | null }[]>('id', 'kind', 'retired_at')
        ).map((row) => [row.id, row]),
      );
      const paths = {
        hours: '/hoursId',
        greeting: '/greetings',
        'when full': '/whenFull',
        listener: '/listeners',
      };
      const kinds: Record<string, readonly string[]> = {
        ...{ hours: ['hours'], greeting: ['prompt'], listener: ['person', 'team'] },
      };
      for (const { to, how } of named) {
        const item = known.get(to);
        const path = paths[how as keyof typeof paths];
        const before =
          current !== null && referencesIn(current).some((each) => each.to === to && each.how === how);
        if (item === undefined || kinds[how]?.includes(item.kind) === false)
          throw Problem.field(path, 'What is named here does not exist. Choose another.');
        if (item.retired_at !== null && !before)
          throw Problem.field(path, 'What is named here is deactivated. Choose another.');
      }
      if (draft.whenFull !== null && 'id' in draft.whenFull && draft.whenFull.id === current?.id)
        throw Problem.field('/whenFull', 'A full box cannot send callers to itself. Choose another.');
    },
    refuseRetiring: (_trx, { ownerKind, name }) =>
      ownerKind === null
        ? Promise.resolve()
        : Promise.reject(
            new Problem(
              'notNow',
              `${name} goes with its ${ownerKind === 'ringGroup' ? 'ring group' : ownerKind}. Deactivate that, and the box follows.`,
            ),
          ),
  },
);

/** The boxes as the exchange reads them: those in use, whose owner is. */
export async function compiledBoxes(database: Knex): Promise<VoicemailBoxItem[]> {
  const rows = await database('voicemail_box as v')
    .join('item as i', 'i.id', 'v.id')
    .leftJoin('item as o', 'o.id', 'v.owner_id')
    .leftJoin('extension as e', 'e.item_id', 'v.id')
    .whereNull('o.retired_at')
    .whereNull('i.retired_at')
    .orderBy('v.id')
    .select<VoicemailBoxItem[]>(
      ...['v.id', 'i.name', 'e.digits as extension', 'v.hours_id as hoursId', 'v.greetings'],
      ...['v.max_message_seconds as maxMessageSeconds', 'v.most_messages as mostMessages'],
      ...['v.when_full as whenFull', 'v.pin_hash as pinHash'],
      database.raw(`case when o.kind = 'person' then v.owner_id end as "personId"`),
    );
  return rows;
}

/** Sets the PIN of a box, or takes it away. It is kept as a hash, and never read. */
export async function setBoxPin(
  trx: Knex.Transaction,
  boxId: string,
  pin: string | null,
  what: 'pinSet' | 'pinSent' | 'pinTaken',
  author: Author,
): Promise<void> {
  await trx('voicemail_box')
    .where({ id: boxId })
    .update({ pin_hash: pin === null ? null : pinHash(boxId, pin) });
  await recordChange(trx, { item_id: boxId, what, before: null, after: null }, author);
  await tellPages(trx, 'voicemail', boxId);
  await announceChange(trx);
}
