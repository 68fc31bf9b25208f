import { readFileSync } from 'node:fs';
import { seededRandom } from '@night-bell/core/random/random';
import { runService } from '../run-service.ts';
import { Book, type BookSeed, inventCustomers } from './book.ts';
import type { HarbourMood } from '@night-bell/core/devices/protocol';
import { HarbourBook } from './server.ts';

/** Started by scripts/run.mjs with the demo: a service of its own, with its own key and its own memory. */
const { HARBOUR_BOOK_FILE: file, HARBOUR_BOOK_KEY: key, HARBOUR_BOOK_SEED: seedFile } = process.env;
if (file === undefined || key === undefined || seedFile === undefined)
  throw new Error('Harbour Book is started with npm run demo.');

const book = new Book(file, () => {
  const seed = JSON.parse(readFileSync(seedFile, 'utf8')) as BookSeed;
  return inventCustomers(seed, seededRandom(20_261_124), new Date().toISOString());
});
const harbourBook = new HarbourBook(book, key);
const port = await harbourBook.listen(Number(process.env.HARBOUR_BOOK_PORT ?? 0));
process.send?.({ ready: true, port });
process.on('message', (message: { mood?: HarbourMood }) => {
  if (message.mood !== undefined) harbourBook.mood = message.mood;
});
runService('Harbour Book', () => harbourBook.close());
