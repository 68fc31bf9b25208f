import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Codec, Transport } from '@night-bell/core/phones/catalogue';
import type { DigestSecret } from '@night-bell/core/sip/digest';
import { sipHeader, type SipRequest, sipUser, writeSip } from '@night-bell/core/sip/message';
import { answerRegister, type RegisterOutcome } from '@night-bell/core/sip/registrar';
import type { Database } from '../database/connection.ts';
import type { SecretBox } from '../security/secret-box.ts';

export const realm = 'night-bell';
const nonceLifeMs = 300_000;

interface RegisteredPhone {
  id: string;
  ha1_sealed: string;
  transport: Transport;
  home: boolean;
  codecs: Codec[];
}

/** The registrar of core on the wall clock: nonces carry their time and a proof that they were made here. */
export class Registrar {
  private readonly database: Database;
  private readonly seal: SecretBox;
  private readonly key = randomBytes(32);
  /** Highest count seen with each nonce, against replays. */
  private readonly counts = new Map<string, number>();

  constructor(database: Database, seal: SecretBox) {
    this.database = database;
    this.seal = seal;
  }

  /** Answers one REGISTER that came from `source`. */
  async answer(
    request: SipRequest,
    source: string | null,
  ): Promise<{ reply: string; outcome: RegisterOutcome; phone: RegisteredPhone | null }> {
    const account = sipUser(sipHeader(request, 'To') ?? '');
    const phone = account === null ? undefined : await this.phone(account);
    const { response, outcome } = answerRegister(request, {
      realm,
      accountOf: () =>
        phone === undefined
          ? null
          : {
              secret: JSON.parse(this.seal.open(phone.ha1_sealed)) as DigestSecret,
              transport: phone.transport,
              behindRouter: phone.home,
            },
      source,
      freshNonce: () => this.nonce(Date.now()),
      nonceState: (nonce, count) => this.nonceState(nonce, count),
      tag: randomBytes(6).toString('hex'),
    });
    return { reply: writeSip(response), outcome, phone: phone ?? null };
  }

  /** The phone of an account that can register; none when it never had a secret. */
  async phone(account: string): Promise<RegisteredPhone | undefined> {
    return this.database('phone as f')
      .join('item as i', 'i.id', 'f.person_id')
      .join('item as d', 'd.id', 'f.id')
      .where('f.account', account)
      .whereNotNull('f.ha1_sealed')
      .whereNull('i.retired_at')
      .whereNull('d.retired_at')
      .first<RegisteredPhone | undefined>('f.id', 'f.ha1_sealed', 'f.transport', 'f.home', 'f.codecs');
  }

  private nonce(at: number): string {
    const time = at.toString(36);
    const random = randomBytes(9).toString('base64url');
    return `${time}.${random}.${this.proof(time, random)}`;
  }

  private proof(time: string, random: string): string {
    return createHmac('sha256', this.key).update(`${time}.${random}`).digest('base64url').slice(0, 22);
  }

  private nonceState(nonce: string, count: string): 'fresh' | 'stale' | 'foreign' | 'replayed' {
    const [time = '', random = '', proof = ''] = nonce.split('.');
    const expected = Buffer.from(this.proof(time, random));
    const sent = Buffer.from(proof);
    if (sent.length !== expected.length || !timingSafeEqual(sent, expected)) return 'foreign';
    const now = Date.now();
    if (now - parseInt(time, 36) > nonceLifeMs) return 'stale';
    const number = parseInt(count, 16);
    if (number <= (this.counts.get(nonce) ?? 0)) return 'replayed';
    this.counts.set(nonce, number);
    if (this.counts.size > 10_000) this.forgetStale(now);
    return 'fresh';
  }

  private forgetStale(now: number): void {
    for (const nonce of this.counts.keys()) {
      if (now - parseInt(nonce.split('.')[0]!, 36) > nonceLifeMs) this.counts.delete(nonce);
    }
  }
}
