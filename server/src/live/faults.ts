import type { ExchangeEvent, ExchangeEventBody } from '@night-bell/core/exchange/kernel/events';
import { ExchangeFault, type Named, namesOf } from '@night-bell/core/exchange/set-aside';

/** An event that broke the engine or cannot be written, and what it had to do with. */
export interface Poison {
  event: ExchangeEvent;
  named: Named;
  why: unknown;
  /** The command of the inbox that brought it. */
  commandId: number | null;
  /** Device events handled after it, on a state that contained it: they are handled anew. */
  after: ExchangeEventBody[];
  /** It stands in the log already, and breaks the replay. */
  inLog: boolean;
}

/** What one event had to do with, when it was not the engine that broke but the writing of what came of it. */
export function poisonOf(event: ExchangeEvent, why: unknown): Pick<Poison, 'event' | 'named' | 'why'> {
  return why instanceof ExchangeFault
    ? { event, named: why.named, why: why.cause }
    : { event, named: namesOf(event, null), why };
}

/** PostgreSQL's classes of errors that the same statement would meet again: what is to be written is at fault. */
const atFaultClasses = /^(0A|21|22|23|42|54|P0)/;

/**
 * Whether what was to be written is at fault, and not the way to the database or another server that was faster: a
 * number taken in the log (exchange_event_pkey) says that somebody else hosts.
 */
export function isDataFault(error: unknown): boolean {
  const { code, constraint } = error as { code?: unknown; constraint?: unknown };
  if (constraint === 'exchange_event_pkey') return false;
  if (typeof code === 'string') return atFaultClasses.test(code);
  return error instanceof TypeError || error instanceof RangeError;
}

/** What went wrong, in one line of bounded length. */
export function faultWords(error: unknown): string {
  const message = error instanceof Error ? error.message : String(error);
  // Of what the database says only its own words: the statement before them helps nobody.
  const isOfDatabase = typeof (error as { code?: unknown }).code === 'string';
  const text = isOfDatabase ? (message.split(' - ').at(-1) ?? message) : message;
  return text.replace(/\p{Cc}+/gu, ' ').slice(0, 500);
}
