import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import { acceptKey } from '@night-bell/core/exchange/legs';
import { type Profile, reactContact, reactOutside, talk } from '@night-bell/core/rehearse/behaviour';
import type { Random } from '@night-bell/core/rehearse/random';

/** The host a trunk names to be served by this provider. */
export const providerHost = 'provider.example';

type Dial = ToGateway & { kind: 'dial' };

/**
 * A provider of lines to the public network: dials contacts and agents' outside numbers, and plays who is there. What
 * it takes is a full number in E.164 and a caller ID; anything else it refuses, as providers do.
 */
export class Provider {
  private readonly random: Random;
  private readonly profile: Profile;
  private readonly say: (message: FromGateway) => void;
  /** Legs that are alive here, with what each does next. */
  private readonly legs = new Map<string, NodeJS.Timeout | null>();
  private readonly contacts = new Set<string>();
  /** Whether somebody at an outside number will press the key. */
  private readonly pressing = new Map<string, number | null>();

  constructor(random: Random, profile: Profile, say: (message: FromGateway) => void) {
    this.random = random;
    this.profile = profile;
    this.say = say;
  }

  alive(): string[] {
    return [...this.legs.keys()];
  }

  stop(): void {
    for (const timer of this.legs.values()) if (timer !== null) clearTimeout(timer);
  }

  dial({ leg, digits, callerId, party }: Dial): void {
    if (!/^\+[1-9]\d{6,14}$/.test(digits)) return this.say({ kind: 'failed', leg, cause: 'noRoute' });
    if (party === 'contact' && callerId === '') return this.say({ kind: 'failed', leg, cause: 'refused' });
    if (party === 'contact') this.ringContact(leg);
    else this.ringAgent(leg);
  }

  /** A call is put through on a line that is open: it ends with the call, the line does not. */
  takeLine(leg: string, line: string): void {
    if (this.legs.has(line)) this.legs.set(leg, null);
  }

  /** Both sides hear each other; a contact's side draws how long and who ends it. False when it is no leg of here. */
  connected(leg: string): boolean {
    if (!this.legs.has(leg)) return false;
    if (this.contacts.has(leg)) {
      const { ms } = talk(this.random, this.profile);
      this.plan(leg, ms, () => this.hangUp(leg));
    }
    return true;
  }

  hears(leg: string, prompt: string): void {
    if (!this.legs.has(leg) || prompt !== 'acceptCall') return;
    const pressesMs = this.pressing.get(leg) ?? null;
    this.pressing.delete(leg);
    if (pressesMs !== null) this.plan(leg, pressesMs, () => this.say({ kind: 'key', leg, key: acceptKey }));
  }

  /** False when it is no leg of here. */
  release(leg: string): boolean {
    const timer = this.legs.get(leg);
    if (timer === undefined) return false;
    if (timer !== null) clearTimeout(timer);
    this.legs.delete(leg);
    this.contacts.delete(leg);
    this.pressing.delete(leg);
    return true;
  }

  private ringAgent(leg: string): void {
    const { liftsMs, pressesMs } = reactOutside(this.random, this.profile);
    this.pressing.set(leg, pressesMs);
    this.plan(leg, liftsMs, () => this.say({ kind: 'answered', leg }));
  }

  private ringContact(leg: string): void {
    this.contacts.add(leg);
    const reaction = reactContact(this.random, this.profile);
    if (reaction.does === 'ringsOut') {
      this.legs.set(leg, null);
      return;
    }
    this.plan(leg, reaction.afterMs, () => {
      if (reaction.does === 'fails') {
        this.release(leg);
        return this.say({ kind: 'failed', leg, cause: reaction.cause });
      }
      this.say({ kind: 'answered', leg });
      this.plan(leg, reaction.greetingMs, () => {
        if (reaction.then === 'hangsUp') return this.hangUp(leg);
        this.say({ kind: 'greeted', leg, by: reaction.by });
        if (reaction.then === 'optsOut') this.say({ kind: 'key', leg, key: '9' });
      });
    });
  }

  private hangUp(leg: string): void {
    this.release(leg);
    this.say({ kind: 'hungUp', leg });
  }

  private plan(leg: string, ms: number, work: () => void): void {
    const before = this.legs.get(leg);
    if (before != null) clearTimeout(before);
    this.legs.set(leg, setTimeout(work, ms));
  }
}
