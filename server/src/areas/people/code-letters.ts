import type { Knex } from 'knex';
import { Problem } from '../../http/problems.ts';
import { type Mail, noMail } from '../../mail/mail.ts';
import { queueLetters } from '../../mail/outbox.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import type { NewPerson } from './create.ts';

/** Codes are said to be sent only where somebody takes letters. */
export function requirePostOffice(mail: Mail, field: string): void {
  if (mail === noMail)
    throw Problem.field(
      field,
      'No post office is set up here, so nothing can be sent by mail. Save or print the codes instead.',
      'notNow',
    );
}

/** Sends each of these who has a mail address their codes; what waits for the post office is sealed. */
export async function sendCodes(
  trx: Knex.Transaction,
  seal: SecretBox,
  people: readonly NewPerson[],
): Promise<NewPerson[]> {
  const addresses = new Map(
    (
      await trx('person')
        .whereRaw('id = any(?::uuid[])', [people.map(({ id }) => id)])
        .whereNotNull('mail')
        .select<{ id: string; mail: string }[]>('id', 'mail')
    ).map(({ id, mail }) => [id, mail]),
  );
  const told = people.map((person) => ({ ...person, sentTo: addresses.get(person.id) ?? null }));
  await queueLetters(
    trx,
    told.flatMap((person) =>
      person.sentTo === null
        ? []
        : [{ to: person.sentTo, subject: 'Your codes for Night Bell', text: letterTo(person) }],
    ),
    seal,
  );
  return told;
}

function letterTo({ name, login, signInCode, extension, phone }: NewPerson): string {
  const own =
    phone === null
      ? []
      : [
          `Your phone has extension ${extension}. Its code: ${phone.enrolmentCode}`,
          'Type it at /enrol, or on the phone.',
        ];
  return [
    `${name},`,
    '',
    `Sign in to Night Bell as ${login} with this code, once: ${signInCode}`,
    'You then set a password of your own. The code holds for 14 days.',
    ...(own.length === 0 ? [] : ['', ...own]),
    '',
  ].join('\n');
}
