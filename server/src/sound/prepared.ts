import type { Measured } from '@night-bell/core/sound/measure';

/** A sound made ready: as callers hear it, G.711 at 8 kHz, one channel (ITU-T G.711, mu-law), and what is said of it. */
export interface Prepared extends Measured {
  telephone: Uint8Array;
}

/** Of a prompt. */
export const longestSeconds = 300;
