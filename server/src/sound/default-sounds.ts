import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { PromptKind } from '@night-bell/core/sound/kinds';

/** They lie beside the built server, and beside its sources. */
const folder = ['../sounds/', '../../sounds/']
  .map((path) => new URL(path, import.meta.url))
  .find((each) => existsSync(new URL('greeting.wav', each)));

/** The sound that is played where a prompt of this kind has none (WAV, G.711). */
export function defaultSound(kind: PromptKind): Promise<Buffer> {
  if (folder === undefined) throw new Error('the default sounds are missing: server/sounds');
  return readFile(new URL(`${kind}.wav`, folder));
}
