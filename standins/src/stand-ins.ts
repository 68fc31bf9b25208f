import type { FromGateway, HarbourMood, Letter, ToGateway } from '@night-bell/core/devices/protocol';
import {
  patienceMs,
  pressKey,
  type Profile,
  reactToRing,
  speakWords,
  talk,
  usualProfile,
  voicemailMs,
} from '@night-bell/core/rehearse/behaviour';
import { type Random, seededRandom } from '@night-bell/core/random/random';
import { Connection } from './connection.ts';
import { Provider, providerHost, providerHosts } from './provider.ts';
import { faxFile } from './fax.ts';
import { Phones } from './phones.ts';
import { Store, type StoredPhone } from './store.ts';
import { CallSounds } from './call-sounds.ts';
import { Texting } from './texting.ts';
import { Traffic } from './traffic.ts';

const mostNotices = 20;
const faxMs = 6_000;

export interface StandInOptions {
  /** Of all servers of the installation. */
  addresses: string[];
  key: string;
  storeFile: string;
  seed: number;
  profile?: Profile;
  /** Tells Harbour Book, a process of its own, how to behave. */
  setMood?: (mood: HarbourMood) => void;
}

/** Phones and callers that are played, in a process of their own, through the device protocol. */
export class StandIns {
  private readonly options: StandInOptions;
  private readonly store: Store;
  private readonly random: Random;
  private readonly profile: Profile;
  private readonly phones: Phones;
  private readonly traffic: Traffic;
  private readonly provider: Provider;
  private readonly texting: Texting;
  /** What the front desk was told. */
  private readonly frontDesk: string[] = [];
  private readonly connection: Connection;
  /** What a leg or call will do next; also the inventory of what is alive here. */
  private readonly legs = new Map<string, NodeJS.Timeout | null>();
  private readonly calls = new Map<string, NodeJS.Timeout | null>();
  /** Calls that an administrator asked for, and those asked for that have no name yet. */
  private readonly placed = new Set<string>();
  private readonly placedRefs = new Set<string>();
  private readonly sounds: CallSounds;
  /** Effects carried out, so that repeats are ignored. */
  private readonly done = new Set<string>();

  constructor(options: StandInOptions) {
    this.options = options;
    this.connection = new Connection(options, {
      opened: () => this.greet(),
      hear: (message) => this.hear(message),
    });
    this.store = new Store(options.storeFile);
    this.random = seededRandom(options.seed);
    this.profile = options.profile ?? usualProfile;
    this.traffic = new Traffic(this.random, (to, from) =>
      this.call(`traffic-${from}-${Date.now()}`, to, from),
    );
    this.sounds = new CallSounds(this.random, (message) => this.say(message));
    this.texting = new Texting(this.random, (message) => this.say(message));
    this.provider = new Provider(this.random, this.profile, (message) => this.say(message));
    this.phones = new Phones(this.store, this.connection, () => this.report());
  }

  start(): void {
    this.connection.start();
    this.traffic.set(this.store.value.traffic.on, this.store.value.traffic.speed);
  }

  stop(): void {
    this.traffic.set(false, 1);
    this.phones.stop();
    this.provider.stop();
    this.texting.stop();
    for (const timer of [...this.legs.values(), ...this.calls.values()])
      if (timer !== null) clearTimeout(timer);
    this.connection.stop();
  }

  setTraffic(on: boolean, speed: number): void {
    this.store.value.traffic = { on, speed };
    this.store.save();
    this.traffic.set(on, speed);
    this.report();
  }

  enrolAll(codes: string[]): Promise<void> {
    return this.phones.enrolAll(codes);
  }

  /** A phone that somebody set up by hand, with whatever secret they typed. */
  addTyped(phone: StoredPhone): void {
    this.phones.add(phone);
  }

  /** Says what is alive here, and has every phone register. */
  private greet(): void {
    this.say({
      kind: 'hello',
      gateway: 'stand-ins',
      legs: [...this.legs.keys(), ...this.provider.alive()],
      trunkHosts: providerHosts,
      calls: [...this.calls.keys()],
    });
    this.report();
    this.phones.registerAll();
  }

  private say(message: FromGateway): void {
    this.connection.say(message);
  }

  private report(): void {
    const { on, speed } = this.store.value.traffic;
    this.say({
      kind: 'trafficState',
      on,
      speed,
      devices: this.phones.played,
      frontDesk: this.frontDesk,
      letters: this.store.value.letters ?? [],
    });
  }

  private hear(message: ToGateway): void {
    if ('effect' in message && message.effect !== 'hello') {
      if (this.done.has(message.effect)) return;
      this.done.add(message.effect);
      if (this.done.size > 20_000) this.done.clear();
    }
    switch (message.kind) {
      case 'sip':
        return this.phones.hear(message.device, message.message);
      case 'ring':
        this.phones.shows(message.device, message.shows ?? [message.from]);
        return this.ring(message.leg, message.answerBySelf);
      case 'dial':
        return this.provider.dial(message);
      case 'takeLine':
        return this.provider.takeLine(message.leg, message.line);
      case 'stopRinging':
        if (!this.provider.release(message.leg)) this.endLeg(message.leg);
        return;
      case 'connected':
        if (!this.provider.connected(message.leg)) this.connected(message.callId, message.leg);
        return;
      case 'released':
        if (this.provider.release(message.leg)) return;
        return message.leg.endsWith('.1') ? this.endCall(message.callId) : this.endLeg(message.leg);
      case 'record':
        this.sounds.message(message.callId, message.greetingSeconds);
        return this.plan(
          this.calls,
          message.callId,
          voicemailMs(this.random, this.profile, message.greetingSeconds),
          () => this.hangUpCaller(message.callId),
        );
      case 'say':
        return this.pressKey(message);
      case 'listen':
        return this.speak(message.callId, message.leg, message.phrases, message.seconds);
      case 'recordGreeting':
      case 'recordTalk':
        return this.sounds.hear(message);
      case 'playMessage':
        return;
      case 'callAccepted':
        if (this.placedRefs.delete(message.ref)) this.placed.add(message.callId);
        this.plan(this.calls, message.callId, patienceMs(this.random, this.profile), () =>
          this.hangUpCaller(message.callId),
        );
        return;
      case 'placeCall':
        this.placedRefs.add(message.ref);
        return this.call(message.ref, message.to, message.from, message.callerName);
      case 'traffic':
        return this.setTraffic(message.on, message.speed);
      case 'callable':
        return this.traffic.know(message.numbers);
      case 'enrol':
        void this.phones.enrol(message.code);
        return;
      case 'trunkSip':
        return this.provider.hear(message);
      case 'dialOn':
        return this.dialOn(message.device, message.to);
      case 'placeText':
        return this.texting.place(message.to, message.from, message.body);
      case 'sendText':
        return this.texting.send(message);
      case 'textTaken':
        return;
      case 'frontDesk':
        this.frontDesk.unshift(message.text);
        this.frontDesk.length = Math.min(this.frontDesk.length, mostNotices);
        return this.report();
      case 'askAgain':
        return this.phones.register(message.device);
      case 'misbehave':
        return this.phones.misbehave(message.device, message.how);
      case 'mood':
        this.options.setMood?.(message.mood);
        return;
      case 'play':
        if (message.prompt === 'enterPin') return this.typePin(message.callId, message.leg);
        return this.provider.hears(message.leg, message.prompt);
      case 'joinRoom':
        return this.plan(this.calls, message.callId, talk(this.random, this.profile).ms, () =>
          this.hangUpCaller(message.callId),
        );
      case 'receiveFax':
        return this.plan(this.calls, message.callId, faxMs, () => {
          const pages = 1 + Math.floor(this.random() * 3);
          const file = Buffer.from(faxFile(pages), 'latin1').toString('base64');
          this.say({ kind: 'fax', callId: message.callId, pages, file });
        });
      case 'hold':
      case 'resume':
      case 'remark':
        return;
    }
  }

  private ring(leg: string, answerBySelf: boolean): void {
    if (answerBySelf) {
      this.legs.set(leg, null);
      this.say({ kind: 'answered', leg });
      return;
    }
    const reaction = reactToRing(this.random, this.profile);
    if (reaction.does === 'nothing') {
      this.legs.set(leg, null);
      return;
    }
    this.plan(this.legs, leg, reaction.afterMs, () => {
      this.legs.set(leg, null);
      if (reaction.does === 'answer') this.say({ kind: 'answered', leg });
      else {
        this.endLeg(leg);
        this.say({ kind: 'failed', leg, cause: 'declined' });
      }
    });
  }

  /** Both sides hear that they talk; the caller's side draws how long and who ends it. */
  private connected(callId: string, leg: string): void {
    if (!leg.endsWith('.1')) {
      this.legs.set(leg, this.legs.get(leg) ?? null);
      return;
    }
    const { ms, endedBy } = talk(this.random, this.profile);
    this.plan(this.calls, callId, ms, () => {
      const agentLeg = [...this.legs.keys(), ...this.provider.alive()].find(
        (each) => each.startsWith(`${callId}.`) && !each.endsWith('.1'),
      );
      if (endedBy === 'agent' && agentLeg !== undefined) {
        if (!this.provider.release(agentLeg)) this.endLeg(agentLeg);
        this.say({ kind: 'hungUp', leg: agentLeg });
      } else this.hangUpCaller(callId);
    });
  }

  private hangUpCaller(callId: string): void {
    this.endCall(callId);
    this.say({ kind: 'callerHungUp', callId });
  }

  private call(ref: string, to: string, from: string, callerName?: string): void {
    const name = callerName === undefined ? {} : { callerName };
    this.say({ kind: 'call', ref, to, from, ...name, trunkHost: providerHost });
  }

  /** Who was asked to call takes the first of the keys, so that one knows where the call goes. */
  private pressKey({ callId, leg, keys, seconds, optional }: ToGateway & { kind: 'say' }): void {
    const pressed = pressKey(this.random, this.profile, keys, seconds, optional);
    const key = this.placed.has(callId) && optional !== true ? keys[0] : pressed?.key;
    if (key === undefined) return;
    this.plan(this.calls, callId, pressed?.afterMs ?? 2_000, () => {
      this.say({ kind: 'key', leg, key });
      this.plan(this.calls, callId, patienceMs(this.random, this.profile), () => this.hangUpCaller(callId));
    });
  }

  /** What a caller answers to who listens: as the profile says; who was asked to call says the first that is expected. */
  private speak(callId: string, leg: string, phrases: readonly string[], seconds: number): void {
    const said = speakWords(this.random, this.profile, phrases, seconds);
    const words = this.placed.has(callId) ? (phrases[0] ?? said?.words) : said?.words;
    if (words === undefined) return;
    this.plan(this.calls, callId, said?.afterMs ?? 2_000, () => {
      this.say({ kind: 'spoken', leg, words });
      this.plan(this.calls, callId, patienceMs(this.random, this.profile), () => this.hangUpCaller(callId));
    });
  }

  /** A stand-in caller at a room's door knows no PIN: types one, wrongly, and gives up. */
  private typePin(callId: string, leg: string): void {
    this.plan(this.calls, callId, 3_000, () => {
      for (const key of '0000#') this.say({ kind: 'key', leg, key });
      this.plan(this.calls, callId, 5_000, () => this.hangUpCaller(callId));
    });
  }

  /** A stand-in agent lifts their phone and dials; who answers decides how long they talk. */
  private dialOn(device: string, to: string): void {
    const ref = `${device}-${Date.now()}`;
    this.say({ kind: 'call', ref, to, from: device, device });
  }

  private plan(where: Map<string, NodeJS.Timeout | null>, key: string, ms: number, work: () => void): void {
    const before = where.get(key);
    if (before != null) clearTimeout(before);
    where.set(key, setTimeout(work, ms));
  }

  private endLeg(leg: string): void {
    const timer = this.legs.get(leg);
    if (timer != null) clearTimeout(timer);
    this.legs.delete(leg);
  }

  private endCall(callId: string): void {
    this.sounds.messageOver(callId);
    const timer = this.calls.get(callId);
    if (timer != null) clearTimeout(timer);
    this.calls.delete(callId);
    this.placed.delete(callId);
  }

  /** A letter came to the stand-in mailbox. */
  keepLetter(letter: Letter): void {
    const { value } = this.store;
    value.letters = [letter, ...(value.letters ?? [])].slice(0, mostNotices);
    this.store.save();
    this.report();
  }
}
