import type { FromGateway, Misbehaviour, PlayedDevice } from '@night-bell/core/devices/protocol';
import type { Connection } from './connection.ts';
import { StandInPhone } from './phone.ts';
import type { Store, StoredPhone } from './store.ts';

/** Lines of a display, and how long a change on one waits to be told with others. */
const mostLines = 8;
const displaysAfterMs = 1_000;

/** The phones that are played: kept, enrolled, registered, and what is to be seen of them. */
export class Phones {
  private readonly store: Store;
  private readonly connection: Connection;
  /** Something is to be seen that was not. */
  private readonly changed: () => void;
  private readonly phones = new Map<string, StandInPhone>();
  private displays: NodeJS.Timeout | null = null;

  constructor(store: Store, connection: Connection, changed: () => void) {
    this.store = store;
    this.connection = connection;
    this.changed = changed;
    for (const stored of store.value.phones) this.play(stored);
  }

  get played(): PlayedDevice[] {
    return [...this.phones.values()].map((phone) => phone.played);
  }

  registerAll(): void {
    for (const phone of this.phones.values()) phone.register();
  }

  register(device: string): void {
    this.phones.get(device)?.register();
  }

  stop(): void {
    if (this.displays !== null) clearTimeout(this.displays);
    for (const phone of this.phones.values()) phone.stop();
  }

  /** Keeps a phone as it was set up, in place of one of its account, and registers it. */
  add(setUp: StoredPhone): void {
    const { value } = this.store;
    value.phones = [...value.phones.filter(({ account }) => account !== setUp.account), setUp];
    this.store.save();
    this.play(setUp);
    this.register(setUp.account);
    this.changed();
  }

  async enrolAll(codes: string[]): Promise<void> {
    for (const code of codes) await this.enrol(code);
  }

  /** A new phone fetches its set-up with its one-time code, keeps it, and registers. */
  async enrol(code: string): Promise<void> {
    const response = await this.connection.post('/api/enrolments', { code });
    const setUp = response?.ok === true ? ((await response.json()) as StoredPhone) : null;
    if (setUp !== null) this.add(setUp);
    this.say({ kind: 'enrolled', code, account: setUp?.account ?? null });
  }

  misbehave(device: string, how: Misbehaviour | null): void {
    this.phones.get(device)?.misbehave(how);
    this.store.save();
    this.changed();
  }

  /** A lamp that was lit or went out is told, so that it can be seen. */
  hear(device: string, text: string): void {
    const phone = this.phones.get(device);
    const before = phone?.newMessages;
    phone?.hear(text);
    if (phone?.newMessages !== before) this.changed();
  }

  /** What a phone displays is told a moment later: on a busy day phones ring many times a second. */
  shows(device: string, lines: readonly string[]): void {
    const phone = this.phones.get(device);
    if (phone === undefined) return;
    phone.display = lines.filter(Boolean).slice(0, mostLines);
    this.displays ??= setTimeout(() => {
      this.displays = null;
      this.changed();
    }, displaysAfterMs);
  }

  private play(stored: StoredPhone): void {
    this.phones.get(stored.account)?.stop();
    const phone = new StandInPhone(stored, (device, message, source) =>
      this.say({ kind: 'sip', device, message, source }),
    );
    this.phones.set(stored.account, phone);
  }

  private say(message: FromGateway): void {
    this.connection.say(message);
  }
}
