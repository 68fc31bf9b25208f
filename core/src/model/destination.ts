/**
 * Anything a call can be sent to. `end` plays the "nobody can take your call" announcement and releases
 * the caller; every other kind names an item.
 */
export type Destination =
  | { kind: 'queue'; id: string }
  | { kind: 'person'; id: string }
  | { kind: 'voicemail'; id: string }
  | { kind: 'outside'; id: string }
  | { kind: 'room'; id: string }
  | { kind: 'ringGroup'; id: string }
  | { kind: 'fax'; id: string }
  /** Where another number of ours leads. */
  | { kind: 'number'; id: string }
  /** What callers meet in an answering plan. */
  | { kind: 'plan'; id: string }
  | { kind: 'end' };

/**
 * One step of what follows when nobody lifts a call straight to a person: somewhere else, or their own other phones in
 * ring order.
 */
export type NoAnswerStep = Destination | { kind: 'otherPhones' };

/** Steps at which somebody must lift, so that others may follow; every other step is the last. */
export const passingSteps: readonly NoAnswerStep['kind'][] = ['otherPhones', 'person', 'outside'];

/** Kinds of items that a call can be sent to. */
export const destinationKinds = [
  'queue',
  'person',
  'voicemail',
  'outside',
  'room',
  'ringGroup',
  'fax',
  'number',
  'plan',
] as const;

/** The item a destination names, or null for `end`. */
export function destinationItem(destination: Destination): string | null {
  return destination.kind === 'end' ? null : destination.id;
}

/** True when both send the call to the same place. */
export function sameDestination(one: Destination | null, other: Destination | null): boolean {
  if (one === null || other === null) return one === other;
  return one.kind === other.kind && destinationItem(one) === destinationItem(other);
}
