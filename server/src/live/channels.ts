/** What the database tells all servers on it, by channel. */

/** Texts came, went out or were written. */
export const textsChannel = 'night_bell_texts';
/** An item changed: its kind and id. */
export const itemsChannel = 'night_bell_items';

/** Those that a server hands on to whoever asked, with what was said. */
export const toldChannels = [textsChannel, itemsChannel] as const;
export type ToldChannel = (typeof toldChannels)[number];

/** Who hears of what any server said on these channels. */
export class Told {
  private readonly listeners = new Map<string, Set<(said: string) => void>>(
    toldChannels.map((channel) => [channel, new Set()]),
  );

  /** Returns how to stop. */
  listenOn(channel: ToldChannel, heard: (said: string) => void): () => void {
    const listeners = this.listeners.get(channel)!;
    listeners.add(heard);
    return () => void listeners.delete(heard);
  }

  /** False for a channel that is none of these. */
  hear(channel: string, said: string): boolean {
    const listeners = this.listeners.get(channel);
    for (const heard of listeners ?? []) heard(said);
    return listeners !== undefined;
  }
}
