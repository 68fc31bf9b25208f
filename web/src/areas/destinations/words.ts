import { formatNumber } from '@night-bell/core/numbers/format';
import type { FaxBox, OutsideNumber, Room } from '../../api/client.ts';

/** A place that calls can be sent to and that is neither a person, a queue nor a mailbox. */
export type Place =
  ({ kind: 'outside' } & OutsideNumber) | ({ kind: 'room' } & Room) | ({ kind: 'fax' } & FaxBox);

export const placeWords = { outside: 'Outside number', room: 'Conference room', fax: 'Fax box' } as const;

/** What is particular about it, in a few words. */
export function aboutPlace(place: Place, nameOf: (id: string) => string): string {
  switch (place.kind) {
    case 'outside':
      return `${formatNumber(place.e164)}, ${place.trunkId === null ? 'by the dialling rules' : `over ${nameOf(place.trunkId)}`}`;
    case 'room':
      return `${place.hasPin ? 'with a PIN' : 'open to everybody'}${place.joinTone ? ', tone on joining' : ''}`;
    case 'fax':
      return place.faxes === 1 ? '1 fax' : `${place.faxes} faxes`;
  }
}

export const fieldWords: Record<string, string> = {
  name: 'Name',
  extension: 'Extension',
  e164: 'Number',
  trunkId: 'Over',
  ringSeconds: 'Rings for',
  joinTone: 'Tone on joining',
};

export function showField(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'trunkId') return value === null ? 'the dialling rules' : nameOf(value as string);
    if (field === 'e164') return formatNumber(String(value));
    if (field === 'ringSeconds') return `${String(value)} s`;
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return value === null ? 'none' : String(value);
  };
}
