import type { Codec, ModelId, Transport } from '@night-bell/core/phones/catalogue';
import type { Letter, Misbehaviour } from '@night-bell/core/devices/protocol';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';

/** What a phone keeps of its set-up, in its own memory. */
export interface StoredPhone {
  account: string;
  domain: string;
  secret: string;
  name: string;
  transport?: Transport;
  codecs?: Codec[];
  model?: ModelId;
  /** It stands outside the house, behind a router. */
  home?: boolean;
  misbehaves?: Misbehaviour | null;
}

export interface Stored {
  phones: StoredPhone[];
  traffic: { on: boolean; speed: number };
  /** Of the mailbox, latest first. */
  letters?: Letter[];
}

/** The stand-ins' own memory: a file of mode 0600, replaced whole. */
export class Store {
  private readonly path: string;
  readonly value: Stored;

  constructor(path: string) {
    this.path = path;
    this.value = existsSync(path)
      ? (JSON.parse(readFileSync(path, 'utf8')) as Stored)
      : { phones: [], traffic: { on: false, speed: 1 } };
  }

  save(): void {
    const fresh = `${this.path}.new`;
    writeFileSync(fresh, JSON.stringify(this.value, null, 1), { mode: 0o600 });
    renameSync(fresh, this.path);
  }
}
