import type { Database } from './database/connection.ts';
import type { Live } from './live/live.ts';
import type { Guesses } from './security/guesses.ts';
import type { Seal } from './security/seal.ts';
import type { Sessions } from './security/sessions.ts';

/** What the areas of the work stand on. */
export interface Services {
  database: Database;
  seal: Seal;
  sessions: Sessions;
  guesses: Guesses;
  live: Live;
}
