import { pin, publicNumber } from '../model/fields.schema.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  extensionOrNone,
  flag,
  id,
  name,
  nullable,
  optional,
  part,
  seconds,
  usually,
  whole,
} from './parts.ts';

/** Somewhere outside that calls can be sent to. */
export const outsideNumbers = itemContract(
  {
    ...{ area: 'Outside numbers', path: '/api/outside-numbers', one: 'an outside number' },
    ...{ many: 'outside numbers', example: { name: 'Harbour office', e164: '+1 360 555 0117' } },
  },
  {
    name,
    extension: extensionOrNone,
    e164: part<string>(publicNumber.required()),
    /** The trunk to dial over; null for those of the dialling rules. */
    trunkId: usually(nullable(id), null),
    ringSeconds: usually(seconds(5, 120), 30),
  },
  {},
);

/** Conference rooms. The PIN is written, never read. */
export const rooms = itemContract(
  { area: 'Conference rooms', path: '/api/rooms', one: 'a conference room', many: 'conference rooms' },
  { name, extension: extensionOrNone, joinTone: usually(flag, true) },
  { hasPin: flag },
  {
    /** A new PIN, or null for none; left out to keep what there is. */
    written: { pin: optional(part<string | null>(pin.allow(null))) },
  },
);

/** Boxes that faxes are kept in. */
export const faxBoxes = itemContract(
  { area: 'Fax boxes', path: '/api/fax-boxes', one: 'a fax box', many: 'fax boxes' },
  { name, extension: extensionOrNone },
  { faxes: whole(0, Number.MAX_SAFE_INTEGER) },
);

export type OutsideNumbersContract = typeof outsideNumbers;
export type RoomsContract = typeof rooms;
export type FaxBoxesContract = typeof faxBoxes;
export type OutsideDraft = DraftOf<OutsideNumbersContract>;
export type OutsideView = ViewOf<OutsideNumbersContract>;
export type RoomDraft = DraftOf<RoomsContract>;
export type RoomView = ViewOf<RoomsContract>;
export type FaxBoxDraft = DraftOf<FaxBoxesContract>;
export type FaxBoxView = ViewOf<FaxBoxesContract>;
