import type { Knex } from 'knex';

/**
 * What the log, the stories and the calls call by names of before takes the trade's own words. Each pair is a piece of
 * JSON as it is written: quotes inside a text stand there escaped, so that nothing somebody typed is touched.
 */
const kinds: [before: string, after: string][] = [
  ['callTaken', 'callPickedUp'],
  ['callHandedOver', 'callTransferred'],
  ['callAnnounced', 'consultationAsked'],
  ['callTakenBack', 'callerRetrieved'],
  ['lineAsked', 'persistentLineAsked'],
  ['lineClosed', 'persistentLineClosed'],
  ['ledNowhere', 'unroutable'],
  ['noWay', 'noRoute'],
  ['wayOut', 'routeChosen'],
  ['wayFailed', 'trunkFailed'],
  ['takenFrom', 'pickedUp'],
  ['handedOver', 'transferred'],
  ['announces', 'consultationBegun'],
  ['told', 'consulted'],
  ['callerBack', 'transferCancelled'],
];

const fields: [before: string, after: string][] = [
  ['restsUntil', 'backOffUntil'],
  ['keptName', 'reservedName'],
  ['keep', 'reserve'],
  ['announced', 'attended'],
  ['kept', 'reserved'],
  ['resting', 'backingOff'],
  ['restAfterNoAnswerSeconds', 'backOffAfterNoAnswerSeconds'],
  ['restAfterDeclineSeconds', 'backOffAfterDeclineSeconds'],
];

const values: [field: string, before: string, after: string][] = [
  ['code', 'kept', 'reserved'],
  ['code', 'resting', 'backingOff'],
  ['why', 'keptForThis', 'reservedForThis'],
  ['why', 'takenBack', 'retrieved'],
  ['result', 'nowhere', 'unroutable'],
];

const pieces: [before: string, after: string][] = [
  ...kinds.map(([before, after]): [string, string] => [`"kind":"${before}"`, `"kind":"${after}"`]),
  ...fields.map(([before, after]): [string, string] => [`"${before}":`, `"${after}":`]),
  ...values.map(([field, before, after]): [string, string] => [
    `"${field}":"${before}"`,
    `"${field}":"${after}"`,
  ]),
];

/** A column of type json keeps the text that was written, without a space. */
async function rename(database: Knex, table: string, column: string): Promise<void> {
  const replaced = pieces.reduce((text) => `replace(${text}, ?, ?)`, `${column}::text`);
  const any = pieces.map(([before]) => before.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|');
  await database.raw(`update ${table} set ${column} = (${replaced})::json where ${column}::text ~ ?`, [
    ...pieces.flat(),
    any,
  ]);
}

export async function up(database: Knex): Promise<void> {
  await rename(database, 'call', 'story');
  await rename(database, 'exchange_event', 'body');
  await rename(database, 'exchange_checkpoint', 'stories');
  await database.raw(
    `update exchange_inbox set body = jsonb_set(body, '{kind}', to_jsonb(n.after))
     from jsonb_each_text(?::jsonb) as n(before, after) where body->>'kind' = n.before`,
    [JSON.stringify(Object.fromEntries(kinds))],
  );
  await database.raw(`
    alter table call drop constraint call_result_check;
    update call set result = 'unroutable' where result = 'nowhere';
    alter table call add constraint call_result_check check (result in
      ('answered', 'abandoned', 'voicemail', 'turnedAway', 'unroutable', 'forwarded', 'conference', 'fax', 'noAnswer', 'busy',
       'machine', 'hungUp', 'optedOut', 'refused', 'noRoute', 'congestion', 'unreachable', 'lineClosed', 'lost'));
  `);
}
