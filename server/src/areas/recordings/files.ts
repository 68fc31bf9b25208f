import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { validate } from 'uuid';

/** The folder in which recordings lie: WAV files that anything plays, a folder for each month. */
export class RecordingFiles {
  private readonly folder: string;

  constructor(folder: string) {
    this.folder = folder;
  }

  /** Keeps a file; its place in the folder. */
  async keep(callId: string, part: number, wav: Uint8Array, at = new Date()): Promise<string> {
    if (!validate(callId)) throw new Error(`${callId} is no call`);
    const month = at.toISOString().slice(0, 7);
    await mkdir(join(this.folder, month), { recursive: true, mode: 0o700 });
    const place = `${month}/${callId}.${part}.wav`;
    await writeFile(join(this.folder, place), wav, { mode: 0o600 });
    return place;
  }

  /** Null when it is not there. */
  read(place: string): Promise<Buffer | null> {
    return readFile(join(this.folder, place)).catch(() => null);
  }

  async remove(place: string): Promise<void> {
    await rm(join(this.folder, place), { force: true });
  }
}
