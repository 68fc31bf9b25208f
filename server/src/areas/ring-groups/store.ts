import type { Knex } from 'knex';
import { type RingGroupDraft, ringGroups, type RingGroupView } from '@night-bell/core/contracts/ring-groups';
import type { RingGroupItem } from '@night-bell/core/model/ring-group';
import type { RingTarget } from '@night-bell/core/model/ring';
import { Problem } from '../../http/problems.ts';
import { checkDestination, destinationReference } from '../../spine/destinations.ts';
import { defineItem } from '../../spine/define-item.ts';
import { insertAll, newId, refuseWhenUsed } from '../../spine/items.ts';
import { refuseRounds } from '../../spine/rounds.ts';
import { createVoicemailBoxes } from '../../spine/voicemail-boxes.ts';

const boxName = (name: string) => `${name} voicemail`;
const ways = {
  whenUnanswered: 'when nobody lifts',
  whenBusy: 'when busy',
  whenOutage: 'when no phone is there',
};
const wayNames = Object.keys(ways) as (keyof typeof ways)[];

const definition = defineItem<typeof ringGroups.path, RingGroupDraft, RingGroupView>({
  kind: 'ringGroup',
  contract: ringGroups,
  word: 'ring group',
  table: 'ring_group',
  hasExtension: true,
  columns: {
    order: 'ring_order',
    ...{ rounds: 'rounds', shows: 'shows' },
    whenUnanswered: { column: 'when_unanswered', write: written },
    whenBusy: { column: 'when_busy', write: written },
    whenOutage: { column: 'when_outage', write: written },
  },
  more: {
    targets: `coalesce((select json_agg(json_build_object('kind', i.kind, 'id', i.id, 'seconds', r.seconds)
      order by r.position) from ring_group_target r join item i on i.id = r.target_id where r.group_id = t.id), '[]')`,
    voicemailBoxId: '(select v.id from voicemail_box v where v.owner_id = t.id)',
    peopleCount: `(select count(distinct p.id)::int from ring_group_target r
      join person p on p.id = r.target_id or p.team_id = r.target_id
      join item pi on pi.id = p.id and pi.retired_at is null where r.group_id = t.id)`,
  },
  parts: {
    fields: ['targets'],
    write: async (trx, id, { targets }) => {
      await trx('ring_group_target').where({ group_id: id }).delete();
      await insertAll(
        trx,
        'ring_group_target',
        targets.map((target, position) => ({
          ...{ group_id: id, target_id: target.id, position, seconds: target.seconds },
        })),
      );
    },
  },
  references: (draft, current) => [
    ...draft.targets.map(({ id }) => ({ to: id, how: 'rings' })),
    ...wayNames
      .flatMap((way) => destinationReference(draft[way], ways[way]))
      // Its own voicemail box is owned, not used.
      .filter(({ to }) => to !== current?.voicemailBoxId),
  ],
  check: async (trx, draft, current) => {
    await checkTargets(trx, draft.targets, current?.targets ?? []);
    for (const way of wayNames) {
      const destination = draft[way];
      if (destination?.kind === 'ringGroup' && destination.id === current?.id)
        throw Problem.field(`/${way}`, 'A ring group cannot send its callers to itself.');
      await checkDestination(trx, destination, `/${way}`);
    }
    if (current !== null) await refuseRounds(trx, { id: current.id, name: draft.name }, draft, wayNames);
  },
  changed: async (trx, { name }, before) => {
    if (name !== before.name)
      await trx('item')
        .where({ id: before.voicemailBoxId })
        .update({ name: boxName(name) });
  },
  refuseRetiring: (trx, { voicemailBoxId, name }) => refuseWhenUsed(trx, voicemailBoxId, boxName(name)),
});

/** Comes with a voicemail box of its own. */
export const ringGroupItem: typeof definition = {
  ...definition,
  create: async (trx, draft, author) => {
    const id = await definition.create(trx, draft, author);
    await createVoicemailBoxes(trx, [{ id: newId(), ownerId: id, name: boxName(draft.name) }], author);
    return id;
  },
};

function written(destination: unknown): string | null {
  return destination === null ? null : JSON.stringify(destination);
}

/** Who is new in it must be in use, and be what is said; who was deactivated after joining may stay, and is not rung. */
async function checkTargets(
  trx: Knex.Transaction,
  targets: readonly RingTarget[],
  before: readonly RingTarget[],
): Promise<void> {
  const rows = await trx('item')
    .whereIn(
      'id',
      targets.map(({ id }) => id),
    )
    .select<{ id: string; kind: string; name: string; retired_at: Date | null }[]>(
      ...['id', 'kind', 'name', 'retired_at'],
    );
  const known = new Map(rows.map((row) => [row.id, row]));
  for (const [index, { kind, id }] of targets.entries()) {
    const row = known.get(id);
    if (row === undefined || row.kind !== kind)
      throw Problem.field(`/targets/${index}`, 'That person, team or number does not exist. Take it out.');
    if (row.retired_at !== null && !before.some((each) => each.id === id))
      throw Problem.field(
        `/targets/${index}`,
        `${row.name} is deactivated and would never ring. Reactivate it first, or leave it out.`,
      );
  }
}

/** As the exchange reads them. */
export async function compiledGroups(database: Knex): Promise<RingGroupItem[]> {
  const groups = (await ringGroupItem.list(database)).filter(({ retired }) => !retired);
  return groups.map(({ id, name, extension, targets, order, rounds, shows, ...group }) => ({
    ...{ id, name, extension, targets, order, rounds, shows },
    whenBusy: group.whenBusy,
    whenUnanswered: group.whenUnanswered ?? { kind: 'voicemail', id: group.voicemailBoxId },
    whenOutage: group.whenOutage,
  }));
}
