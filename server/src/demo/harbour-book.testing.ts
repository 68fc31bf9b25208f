import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seededRandom } from '@night-bell/core/random/random';
import { Book, type BookSeed, inventCustomers } from '../../../standins/src/harbour-book/book.ts';
import { HarbourBook } from '../../../standins/src/harbour-book/server.ts';
import type { Door } from './answering.ts';

/** Harbour Book with the demo's customers in this process, as the start command runs it in another. */
export async function openHarbourBook(folder: string): Promise<{ door: Door; close: () => Promise<void> }> {
  const seed = JSON.parse(readFileSync(join(folder, 'harbour-book.json'), 'utf8')) as BookSeed;
  const memory = mkdtempSync(join(tmpdir(), 'night-bell-'));
  const key = 'key of Harbour Book';
  const harbourBook = new HarbourBook(
    new Book(join(memory, 'book.json'), () =>
      inventCustomers(seed, seededRandom(1), new Date().toISOString()),
    ),
    key,
  );
  const port = await harbourBook.listen(0);
  return {
    door: { address: `http://127.0.0.1:${port}`, key },
    close: async () => {
      await harbourBook.close();
      rmSync(memory, { recursive: true });
    },
  };
}
