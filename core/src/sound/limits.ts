/**
 * Bytes of a sound that is brought: a minute and a half of speech at 22 kHz. Reading a larger request would keep the live
 * loop from its calls.
 */
export const mostSoundBytes = 4 * 1024 * 1024;
