import Joi from 'joi';
import { type Outgoing, OutgoingFault } from '../../outgoing/outgoing.ts';

/** A record as the customer system gives it. */
export interface CrmRecord {
  id: string;
  name: string;
  numbers: string[];
  /** Login of the person who looks after it. */
  owner: string | null;
  fields: Record<string, string>;
  changedAt: string;
}

/** The result of a call, as it is written back. */
export interface CrmCall {
  callId: string;
  direction: 'inbound' | 'outbound';
  at: string;
  number: string;
  agent: string | null;
  queue: string | null;
  campaign: string | null;
  result: string;
  talkedSeconds: number;
  outcome: string | null;
  note: string;
}

/** Why the customer system could not be asked; `detail` is a sentence a person can act on. */
export class CrmFault extends Error {
  readonly code: 'away' | 'slow' | 'refused' | 'wrongKey' | 'strange' | 'unknownRecord';
  readonly detail: string;
  /** `host:port` that an administrator may allow, when the address was refused. */
  readonly where: string | null;

  constructor(code: CrmFault['code'], detail: string, where: string | null = null) {
    super(detail);
    this.code = code;
    this.detail = detail;
    this.where = where;
  }
}

const patienceMs = 4_000;
const longestReply = 8_000_000;

const record = Joi.object<CrmRecord, true>({
  id: Joi.string().max(100).required(),
  name: Joi.string().max(200).required(),
  numbers: Joi.array().items(Joi.string().max(40)).required(),
  owner: Joi.string().max(80).allow(null).default(null),
  fields: Joi.object().pattern(Joi.string().max(60), Joi.string().max(500).allow('')).required(),
  changedAt: Joi.string().isoDate().required(),
}).options({ stripUnknown: true });

const page = Joi.object<{ records: CrmRecord[]; next: string | null }, true>({
  records: Joi.array().items(record).max(1_000).required(),
  next: Joi.string().max(200).allow(null).required(),
}).options({ stripUnknown: true });

const status = Joi.object<{ name: string; records: number }, true>({
  name: Joi.string().max(100).required(),
  records: Joi.number().integer().required(),
}).options({ stripUnknown: true });

/** The customer system behind its HTTP interface (docs/records-protocol.md). */
export class Crm {
  private readonly outgoing: Outgoing;
  private readonly address: string;
  private readonly key: string;
  private readonly withinMs: number;

  /** @param withinMs how long each answer may take */
  constructor(outgoing: Outgoing, address: string, key: string, withinMs = patienceMs) {
    this.withinMs = withinMs;
    this.outgoing = outgoing;
    this.address = address.replace(/\/+$/, '');
    this.key = key;
  }

  status(): Promise<{ name: string; records: number }> {
    return this.ask('GET', '/status', status);
  }

  /** Records changed at or after `since`, oldest change first, behind the cursor `after`. */
  records(
    since: string | null,
    after: string | null,
  ): Promise<{ records: CrmRecord[]; next: string | null }> {
    const query = new URLSearchParams({ limit: '500' });
    if (since !== null) query.set('changedSince', since);
    if (after !== null) query.set('after', after);
    return this.ask('GET', `/records?${query}`, page);
  }

  record(id: string): Promise<CrmRecord> {
    return this.ask('GET', `/records/${encodeURIComponent(id)}`, record);
  }

  /** Writes one call's result; the same call again replaces it. */
  async writeCall(recordId: string, call: CrmCall): Promise<void> {
    const path = `/records/${encodeURIComponent(recordId)}/calls/${call.callId}`;
    await this.ask('PUT', path, Joi.any(), call);
  }

  private async ask<T>(method: string, path: string, schema: Joi.Schema<T>, body?: unknown): Promise<T> {
    const response = await this.outgoing
      .ask(`${this.address}${path}`, {
        method,
        secretHeaders: { authorization: `Bearer ${this.key}` },
        headers: {
          accept: 'application/json',
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
        timeoutMs: this.withinMs,
        mostBytes: longestReply,
      })
      .catch((error: unknown) => {
        throw faultOf(error, this.withinMs);
      });
    if (response.status === 401 || response.status === 403)
      throw new CrmFault('wrongKey', 'It refused the key. Copy a fresh key from the customer system.');
    if (response.status === 404 && path.startsWith('/records/'))
      throw new CrmFault('unknownRecord', 'It has no such record any more.');
    if (response.status >= 500)
      throw new CrmFault(
        'strange',
        `It has a fault of its own (it answered ${response.status}). Ask whoever runs it.`,
      );
    if (response.status >= 300)
      throw new CrmFault(
        'strange',
        `It answered ${response.status}. Check the address: is it the one of its API?`,
      );
    const { text } = response;
    const { error, value } = schema.validate(text === '' ? null : parsed(text), { convert: false });
    if (error !== undefined)
      throw new CrmFault('strange', `It answered something that is not a record: ${error.message}.`);
    return value as T;
  }
}

function faultOf(error: unknown, withinMs: number): CrmFault {
  if (!(error instanceof OutgoingFault)) return new CrmFault('strange', String(error));
  switch (error.code) {
    case 'slow':
      return new CrmFault('slow', `It did not answer within ${withinMs / 1000} seconds.`);
    case 'refused':
      return new CrmFault('refused', error.message, error.where);
    case 'away':
      return new CrmFault('away', error.message);
    default:
      return new CrmFault('strange', error.message);
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new CrmFault(
      'strange',
      'It did not answer with JSON. Check the address: is it the one of its API?',
    );
  }
}
