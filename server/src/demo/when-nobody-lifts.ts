import type { Knex } from 'knex';
import type { NoAnswerStep } from '@night-bell/core/model/destination';
import { personChange } from '@night-bell/core/model/people.schema';
import { changePerson, getPerson, personSnapshot } from '../areas/people/store.ts';
import { authorOf } from '../spine/items.ts';
import { itemCalled } from './by-name.ts';

/** One step of what follows when somebody does not lift, by names; rows of one person stand in their order. */
export interface DemoStep {
  callsOf: string;
  goTo: string;
}

export async function loadSteps(trx: Knex.Transaction, rows: DemoStep[]): Promise<void> {
  const stepOf = async (name: string): Promise<NoAnswerStep> => {
    if (name === 'other phones') return { kind: 'otherPhones' };
    const id = await itemCalled(trx, ['person', 'outside', 'queue'], name);
    const { kind } = (await trx('item').where({ id }).first('kind'))!;
    return { kind, id } as NoAnswerStep;
  };
  for (const owner of new Set(rows.map((row) => row.callsOf))) {
    const person = await getPerson(trx, await itemCalled(trx, ['person'], owner));
    const noAnswer: NoAnswerStep[] = [];
    for (const row of rows.filter((each) => each.callsOf === owner)) noAnswer.push(await stepOf(row.goTo));
    const { error, value } = personChange.validate({ ...personSnapshot(person), noAnswer });
    if (error !== undefined) throw error;
    await changePerson(trx, person.id, person.version, value, authorOf(null));
  }
}
