import { type OpeningHours, standingAt } from '../hours/opening-hours.ts';

/** A prompt for each caller; null for what is said instead (`greetingFor`). */
export interface GreetingPair {
  outside: string | null;
  inside: string | null;
}

/** Which prompt greets whom. */
export interface Greetings {
  open: GreetingPair;
  closed: GreetingPair;
}

/** Nothing chosen: everybody hears the default. */
export const noGreetings: Greetings = {
  open: { outside: null, inside: null },
  closed: { outside: null, inside: null },
};

/** Which cell of the four speaks, and what it says. */
export interface Greeting {
  when: keyof Greetings;
  caller: keyof GreetingPair;
  promptId: string | null;
}

/**
 * What a box says to a caller. A cell that is empty says what the cell for outside callers of the same time says, and
 * that one what is said while open; with nothing there the default greeting plays (definitions.md, "Voicemail").
 *
 * @param hours the box's set; without one it is always open
 * @param inside whether a colleague calls
 * @param at UTC milliseconds
 */
export function greetingFor(
  greetings: Greetings,
  hours: OpeningHours | undefined,
  inside: boolean,
  at: number,
): Greeting {
  const when = hours === undefined || standingAt(hours, at).state === 'open' ? 'open' : 'closed';
  const caller = inside ? 'inside' : 'outside';
  const { open } = greetings;
  const promptId = greetings[when][caller] ?? greetings[when].outside ?? open[caller] ?? open.outside;
  return { when, caller, promptId };
}
