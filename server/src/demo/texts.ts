import type { Database } from '../database/connection.ts';
import { keepText, textIsSent, writeText } from '../areas/texts/store.ts';

/** A text of the demo's past, by the number of ours and the one on the other side. */
export interface DemoText {
  number: string;
  other: string;
  direction: 'in' | 'out';
  minutesAgo: string;
  body: string;
}

/** What the stand-in provider asks for a text of one part. */
const price = '0.0079';

/** Texts of the last hours, kept, sent and charged as live ones are. */
export async function loadTexts(database: Database, rows: DemoText[], byPerson: string): Promise<void> {
  await database.transaction(async (trx) => {
    for (const [index, { number, other, direction, minutesAgo, body }] of rows.entries()) {
      const at = new Date(Date.now() - Number(minutesAgo) * 60_000);
      if (direction === 'in') {
        await keepText(trx, { ref: `demo ${index}`, to: number, from: other, body, price }, at);
        continue;
      }
      const { id: numberId } = (await trx('number').where({ e164: number }).first('id'))!;
      const id = await writeText(trx, { numberId, to: other, body }, byPerson, at);
      await textIsSent(trx, id, price);
    }
  });
}
