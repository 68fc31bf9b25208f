import { statfs } from 'node:fs/promises';
import type { Live } from './live.ts';

/** Room for recordings: bytes that are free, and how few are too few. */
export interface Room {
  free: () => Promise<number>;
  least: number;
}

const lookEveryMs = 15_000;

/** The room of the file system on which this folder stands. */
export function roomOf(folder: string, least: number): Room {
  return {
    least,
    free: async () => {
      const { bavail, bsize } = await statfs(folder);
      return bavail * bsize;
    },
  };
}

/** Tells the exchange when there is no room for recordings any more, and when there is again. */
export class StorageWatch {
  private readonly room: Room | null;
  private readonly live: Live;
  private readonly timer: NodeJS.Timeout | null;

  constructor(room: Room | null, live: Live) {
    this.room = room;
    this.live = live;
    this.timer = room === null ? null : setInterval(() => void this.look(), lookEveryMs);
  }

  /** Said once for each change. What cannot be looked at is as it was. */
  async look(): Promise<void> {
    const { room, live } = this;
    if (room === null || !live.isHost) return;
    const free = await room.free().catch(() => null);
    if (free === null || !live.isHost) return;
    const full = free < room.least;
    if (full !== live.exchange.view().storageFull) live.submit({ kind: 'storageChanged', full });
  }

  close(): void {
    if (this.timer !== null) clearInterval(this.timer);
  }
}
