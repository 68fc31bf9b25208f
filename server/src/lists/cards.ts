import type { Knex } from 'knex';
import { writeCards as cardsOf } from '@night-bell/core/model/vcard';

/** People as address cards (vCard 4.0): with the public numbers that lead straight to them. */
export async function* writeCards(
  database: Knex,
  rows: AsyncIterable<Record<string, unknown>[]>,
): AsyncGenerator<Buffer> {
  const { name: company } = await database('installation').first<{ name: string }>('name');
  const numbers = await database('number')
    .whereNotNull('e164')
    .orderBy('e164')
    .select<{ e164: string; kind: string | null; to: string | null }[]>(
      ...['e164', 'destination_kind as kind', 'destination_item as to'],
    );
  const main = numbers[0]?.e164 ?? null;
  const direct = new Map<string, string[]>();
  for (const { e164, kind, to } of numbers)
    if (kind === 'person' && to !== null) direct.set(to, [...(direct.get(to) ?? []), e164]);
  for await (const some of rows as AsyncIterable<Person[]>)
    yield Buffer.from(
      cardsOf(
        some.map(({ id, name, teamName, mail, extension }) => ({
          ...{ id, name, company, team: teamName, mail, extension },
          numbers: direct.get(id) ?? [],
        })),
        main,
      ),
    );
}

interface Person {
  id: string;
  name: string;
  teamName: string | null;
  mail: string | null;
  extension: string;
}
