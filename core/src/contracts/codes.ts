import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, flag, id, list, name, nullable, ruled, text, usually, whole } from './parts.ts';

const digits = ruled(text(8), (value) =>
  /^\*\d{2,6}$/.test(value) ? null : 'A code is * and two to six digits, for example *86.',
);

/** Codes that are dialled on our own phones. */
export const codes = itemContract(
  { area: 'Service codes', path: '/api/service-codes', one: 'a service code', many: 'service codes' },
  {
    name,
    digits,
    /**
     * Closes opening hours for some hours; opens the voicemail box of who dials; lets who dials sit out of ring groups, or
     * take part again.
     */
    does: choice('storm', 'voicemail', 'takePart'),
    /** Sets it closes, and for how many hours. */
    hoursIds: list(id, 100),
    forHours: whole(1, 72),
    /** Teams whose people may use it; none named means everybody. */
    teamIds: list(id, 200),
    /** The ring groups it is about; none named means all that whoever dials is in. */
    groupIds: usually(list(id, 100), []),
  },
  {
    hasPin: flag,
    /** The dialling rule that would have taken these digits out; the code comes first. */
    insteadOf: nullable(text(80)),
  },
);

export type CodesContract = typeof codes;
export type CodeDraft = DraftOf<CodesContract>;
export type CodeView = ViewOf<CodesContract>;
