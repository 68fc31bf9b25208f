import type { Destination } from '../model/destination.ts';
import * as fields from '../model/fields.schema.ts';
import type { Greetings } from '../voicemail/greeting.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  decimal,
  emailAddress,
  flag,
  id,
  instant,
  list,
  name,
  nullable,
  object,
  type Out,
  type Part,
  text,
  whole,
} from './parts.ts';

const greetingPair = object({ outside: nullable(id), inside: nullable(id) });
const greetings: Part<Greetings> = object({ open: greetingPair, closed: greetingPair });
const extension: Part<string | null> = { schema: fields.extension.allow(null).required() };
const destination: Part<Destination | null> = { schema: fields.destinationOrNull.required() };

/** Voicemail boxes: of a person, of a queue, or shared. Those with an owner are made, named and gone with them. */
export const voicemailBoxes = itemContract(
  { area: 'Voicemail', path: '/api/voicemail-boxes', one: 'a voicemail box', many: 'voicemail boxes' },
  {
    name,
    extension,
    /** The opening hours its greetings follow. */
    hoursId: nullable(id),
    greetings,
    maxMessageSeconds: whole(10, 600),
    mostMessages: whole(1, 1_000),
    /** Days after which a message is deleted that nobody kept. */
    keepDays: whole(1, 3_650),
    whenFull: destination,
    /** People and teams who hear it, beside its owner or the people of its queue. */
    listeners: list(id, 200),
    /** Who is told of a new message. */
    mailTo: list(emailAddress, 10),
  },
  {
    ownerId: nullable(id),
    ownerKind: nullable(choice('person', 'queue', 'ringGroup')),
    /** Messages in it, and of them those nobody has heard. */
    held: whole(0, 1_000_000),
    fresh: whole(0, 1_000_000),
    oldestFresh: nullable(instant),
    hasPin: flag,
    uses: whole(0, 1_000_000),
  },
);

export type VoicemailBoxesContract = typeof voicemailBoxes;
export type VoicemailBoxDraft = DraftOf<VoicemailBoxesContract>;
export type VoicemailBoxView = ViewOf<VoicemailBoxesContract>;

export const messageStates = ['new', 'heard', 'kept'] as const;
export type MessageState = (typeof messageStates)[number];

/** A message. Its sound comes a moment after it; `sound` is null until then, or when it never came. */
export const messageView = object({
  id,
  boxId: id,
  callId: id,
  from: text(64),
  callerName: nullable(text(120)),
  at: instant,
  seconds: whole(0, 10_000),
  state: choice(...messageStates),
  sound: nullable(object({ peaks: list(whole(0, 100), 128), seconds: decimal })),
  /** Who heard it first, and when. */
  heardBy: nullable(text(80)),
  heardAt: nullable(instant),
  /** Who sent it on to this box. */
  forwardedBy: nullable(text(80)),
  /** Deleted, and to be brought back until the day is over. */
  deletedAt: nullable(instant),
});
export type MessageView = Out<typeof messageView>;

const ids = list(id, 500);
/** What may be done with several messages at once. */
export const messageMark = object({ ids, state: choice(...messageStates) });
export const messageDeletion = object({ ids, deleted: flag });
export const messageForward = object({ ids, boxId: id });

/** A new PIN: typed, made and sent to the owner, or taken away (null). It is never shown. */
export const pinChange = object({
  pin: nullable({ schema: fields.pin.required() } as Part<string>),
  send: flag,
});
