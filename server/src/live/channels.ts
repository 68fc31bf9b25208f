/** What the database tells all servers on it, by channel. */

/** Texts came, went out or were written. */
export const textsChannel = 'night_bell_texts';
/** An item changed: its kind and id. */
export const itemsChannel = 'night_bell_items';

/** Those that a server hands on to whoever asked, with what was said. */
export const toldChannels = [textsChannel, itemsChannel] as const;
export type ToldChannel = (typeof toldChannels)[number];
