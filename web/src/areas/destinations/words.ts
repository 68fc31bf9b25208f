import { formatNumber } from '@night-bell/core/numbers/format';
import type {
  FaxBoxDraft,
  FaxBoxView,
  OutsideDraft,
  OutsideView,
  RoomDraft,
  RoomView,
} from '@night-bell/core/contracts/destinations';
import { faxBoxesApi, outsideNumbersApi, roomsApi } from '../../api/lists.ts';
import type { ItemArea } from '../../kit/item-area.ts';
import type { Place } from '../../shell/set-up.ts';

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

function showField(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'trunkId') return value === null ? 'the dialling rules' : nameOf(value as string);
    if (field === 'e164') return formatNumber(String(value));
    if (field === 'ringSeconds') return `${String(value)} s`;
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return value === null ? 'none' : String(value);
  };
}

const place = (kind: Place['kind']) => ({
  page: '/destinations' as const,
  savedAs: '',
  title: 'Destinations',
  one: placeWords[kind].toLowerCase(),
  second: placeWords[kind],
  words: fieldWords,
  unused: 'Nothing leads here yet. Give a number this destination.',
  made: ({ name }: { name: string }) => `${name} is made. Send a number or a queue's callers here.`,
});

export const outsideArea = (nameOf: (id: string) => string): ItemArea<OutsideDraft, OutsideView> => ({
  ...place('outside'),
  api: outsideNumbersApi,
  fresh: () => ({ name: '', extension: null, e164: '', trunkId: null, ringSeconds: 30 }),
  draftOf: ({ name, extension, e164, trunkId, ringSeconds }) => ({
    name,
    extension,
    e164,
    trunkId,
    ringSeconds,
  }),
  show: showField(nameOf),
});

export const roomArea = (nameOf: (id: string) => string): ItemArea<RoomDraft, RoomView> => ({
  ...place('room'),
  api: roomsApi,
  fresh: () => ({ name: '', extension: null, joinTone: true }),
  draftOf: ({ name, extension, joinTone }) => ({ name, extension, joinTone }),
  show: showField(nameOf),
});

export const faxBoxArea = (nameOf: (id: string) => string): ItemArea<FaxBoxDraft, FaxBoxView> => ({
  ...place('fax'),
  api: faxBoxesApi,
  first: 'Fax box',
  fresh: () => ({ name: '', extension: null }),
  draftOf: ({ name, extension }) => ({ name, extension }),
  show: showField(nameOf),
});
