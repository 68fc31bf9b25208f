import type { Knex } from 'knex';
import { objectSchema } from '@night-bell/core/contracts/item';
import { ringGroups } from '@night-bell/core/contracts/ring-groups';
import { ringGroupItem } from '../areas/ring-groups/store.ts';
import { authorOf } from '../spine/items.ts';
import { checked, destinationCalled } from './by-name.ts';

/** A ring group as the demo writes it: whom it rings as `person: name, seconds`, where it leads by name. */
export interface DemoRingGroup {
  name: string;
  targets: string[];
  whenUnanswered?: string;
  whenBusy?: string;
  whenOutage?: string;
  [other: string]: unknown;
}

export async function loadRingGroups(trx: Knex.Transaction, groups: DemoRingGroup[]): Promise<void> {
  const author = authorOf(null);
  for (const { targets, whenUnanswered, whenBusy, whenOutage, ...rest } of groups) {
    const rung: object[] = [];
    for (const target of targets) {
      const [named = '', seconds] = target.split(', ');
      rung.push({ ...(await destinationCalled(trx, named)), seconds: Number(seconds) });
    }
    const way = (text: string | undefined) => (text === undefined ? null : destinationCalled(trx, text));
    const draft = {
      ...{ ...rest, targets: rung, whenUnanswered: await way(whenUnanswered) },
      ...{ whenBusy: await way(whenBusy), whenOutage: await way(whenOutage) },
    };
    await ringGroupItem.create(trx, checked(objectSchema(ringGroups.draft).validate(draft)), author);
  }
}
