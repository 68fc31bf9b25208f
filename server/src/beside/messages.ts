import type { LinesNow } from '../areas/home/view.ts';
import type { HoursAsked, TestCallAsked } from './beside.ts';

/** What the thread is asked; each is answered by its id. */
export type Asked = { id: number } & (
  | { kind: 'testCall'; asked: TestCallAsked }
  | { kind: 'hours'; asked: HoursAsked }
  | { kind: 'home'; asked: { seq: number; lines: LinesNow | null } }
  | { kind: 'setUpDifference'; seq: number }
);

/** What the thread hears without answering. */
export type Told = { kind: 'committed'; seq: number; hosting: boolean } | { kind: 'reset' };

export type ToThread = Asked | Told;

export type FromThread = { id: number; answer: unknown } | { id: number; fault: string };

/** What the thread needs to begin. */
export interface ThreadData {
  database: string;
}
