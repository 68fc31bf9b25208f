import { v7 as uuid } from 'uuid';
import type { FromGateway, Letter, PlayedDevice, ToGateway } from '@night-bell/core/devices/protocol';

const placedWithinMs = 5_000;

export interface StandInState {
  connected: boolean;
  traffic: { on: boolean; speed: number };
  phones: number;
  /** What the front desk was told, latest first. */
  frontDesk: string[];
  /** What came to the stand-in mailbox, latest first. */
  letters: Letter[];
  /** Phones whose lamp is lit: account, and of how many messages it tells. */
  lamps: { account: string; newMessages: number }[];
}

/** What an administrator asks of the stand-ins: traffic, single calls, enrolments. Open while they are connected. */
export class StandInDoor {
  /** Which numbers stand-in callers may call. */
  private readonly callable: () => Promise<{ to: string; share: number }[]>;
  private say: ((message: ToGateway) => void) | null = null;
  private readonly placed = new Map<string, { timer: NodeJS.Timeout; done: (callId: string) => void }>();
  private traffic: StandInState['traffic'] = { on: false, speed: 1 };
  private devices = new Map<string, PlayedDevice>();
  private notices: string[] = [];
  private letters: Letter[] = [];

  constructor(callable: () => Promise<{ to: string; share: number }[]>) {
    this.callable = callable;
  }

  get state(): StandInState {
    return {
      connected: this.say !== null,
      traffic: this.traffic,
      phones: this.devices.size,
      frontDesk: this.notices,
      letters: this.letters,
      lamps: [...this.devices.values()].flatMap(({ account, newMessages = 0 }) =>
        newMessages > 0 ? [{ account, newMessages }] : [],
      ),
    };
  }

  open(say: (message: ToGateway) => void): void {
    this.say = say;
    void this.numbersChanged();
  }

  /** They went away; a door opened by others meanwhile stays open. */
  closed(say: (message: ToGateway) => void): void {
    if (this.say === say) this.say = null;
  }

  stop(): void {
    for (const { timer } of this.placed.values()) clearTimeout(timer);
  }

  /** The set-up changed: stand-in callers call what leads somewhere now. */
  async numbersChanged(): Promise<void> {
    const numbers = await this.callable().catch(() => null);
    if (numbers !== null) this.tell({ kind: 'callable', numbers });
  }

  /** False when they are not connected. */
  tell(message: ToGateway): boolean {
    this.say?.(message);
    return this.say !== null;
  }

  /** How a stand-in plays the phone of this account; null when none does. */
  plays(account: string): PlayedDevice | null {
    return this.devices.get(account) ?? null;
  }

  trafficIs({ on, speed, devices, frontDesk, letters }: FromGateway & { kind: 'trafficState' }): void {
    this.traffic = { on, speed };
    this.notices = frontDesk;
    this.letters = letters ?? [];
    this.devices = new Map(devices.map((device) => [device.account, device]));
  }

  /** Has a stand-in caller make this call; resolves to the id the exchange gave it. Null when they are not connected. */
  placeCall(to: string, from: string): Promise<string> | null {
    const ref = uuid();
    if (!this.tell({ kind: 'placeCall', ref, to, from })) return null;
    return new Promise<string>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.placed.delete(ref);
        reject(new Error('the stand-in caller did not call'));
      }, placedWithinMs);
      this.placed.set(ref, { timer, done: resolve });
    });
  }

  arrived(ref: string, callId: string): void {
    const placed = this.placed.get(ref);
    if (placed === undefined) return;
    clearTimeout(placed.timer);
    this.placed.delete(ref);
    placed.done(callId);
  }
}
