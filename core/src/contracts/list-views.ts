import Joi from 'joi';
import { flag, id, list, name, nullable, object, type Out, part, text, usually } from './parts.ts';

/** The lists that can be looked at in ways of one's own, as their pages are called. */
export const viewedLists = [
  ...([
    'people',
    'numbers',
    'calls',
    'records',
    'opt-outs',
    'changes',
    'queues',
    'trunks',
    'dialling',
  ] as const),
  ...([
    'ring-groups',
    'destinations',
    'sources',
    'campaigns',
    'answering',
    'hours',
    'prompts',
    'blocked',
    'codes',
    'regions',
    'bots',
  ] as const),
  ...(['script-keys', 'voicemail'] as const),
] as const;
export type ViewedList = (typeof viewedLists)[number];

const viewedList = part<ViewedList>(
  Joi.string()
    .valid(...viewedLists)
    .required()
    .messages({ 'any.only': 'There is no list of this name.' }),
);
/** Keys of columns, in the order they are shown. */
const columns = list(text(40), 40);

/** A way to look at a list that was given a name: what it is narrowed to and sorted by, and its columns. */
const looked = {
  name,
  /** As it stands in the address of the page, without its columns: 'team=…&sort=-name'. */
  query: text(2_000),
  /** Null for those the page shows of itself. */
  columns: nullable(columns),
  /** Everybody sees it. */
  shared: usually(flag, false),
};

export const listViewDraft = object({ list: viewedList, ...looked });
export type ListViewDraft = Out<typeof listViewDraft>;

export const listView = object({
  id,
  ...looked,
  /** Kept by who asks, who alone may change it. */
  mine: flag,
  by: text(80),
});
export type ListView = Out<typeof listView>;

/** Of one list: the columns one chose, and the views one may take. */
export const waysToLook = object({ columns: nullable(columns), views: list(listView, 10_000) });
export type WaysToLook = Out<typeof waysToLook>;

export const listAsked = object({ list: viewedList });
export const columnChoice = object({ columns: nullable(columns) });
