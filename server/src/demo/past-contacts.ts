import type { Knex } from 'knex';
import type { LeasedContact } from '@night-bell/core/exchange/kernel/events';
import type { CallFacts, RecordFacts } from '@night-bell/core/story/facts';
import { rehearsedUuid, type Random } from '@night-bell/core/random/random';
import {
  afterAttempt,
  type AttemptResult,
  type ContactState,
  type RetryRules,
} from '@night-bell/core/outbound/retry';
import { nextCallable } from '@night-bell/core/outbound/window';
import { zoneClocks } from '../live/zones.ts';

interface PastContact {
  id: string;
  campaignId: string;
  e164: string;
  name: string;
  zones: string[];
  attempts: number;
  state: ContactState | 'leased';
  dueAt: number;
  lastResult: string | null;
  lastCallId: string | null;
  lastAt: number | null;
}

/** The contacts of the running campaigns during the rehearsed past, by the rules they have in the live one. */
export class PastContacts {
  private readonly contacts: Map<string, PastContact>;
  private readonly rules: Map<string, RetryRules>;
  private readonly records: Map<string, RecordFacts>;
  private readonly random: Random;

  private constructor(
    contacts: PastContact[],
    rules: Map<string, RetryRules>,
    records: Map<string, RecordFacts>,
    random: Random,
  ) {
    this.contacts = new Map(contacts.map((contact) => [contact.id, contact]));
    this.rules = rules;
    this.records = records;
    this.random = random;
  }

  static async load(database: Knex, random: Random): Promise<PastContacts> {
    const campaigns = await database('campaign')
      .where({ status: 'running' })
      .select<
        { id: string; attempts: number; retry_minutes: number; hours_from: number; hours_to: number }[]
      >();
    const rules = new Map(
      campaigns.map((row) => [
        row.id,
        {
          attempts: row.attempts,
          retryMinutes: row.retry_minutes,
          hours: { from: row.hours_from, to: row.hours_to },
        },
      ]),
    );
    const rows = await database('contact')
      .whereIn('campaign_id', [...rules.keys()])
      .where({ state: 'due' })
      .orderBy(['campaign_id', 'position'])
      .select<{ id: string; campaign_id: string; e164: string; name: string; zones: string[] }[]>();
    const contacts = rows.map((row) => ({
      id: row.id,
      campaignId: row.campaign_id,
      e164: row.e164,
      name: row.name,
      zones: row.zones,
      attempts: 0,
      state: 'due' as const,
      dueAt: 0,
      lastResult: null,
      lastCallId: null,
      lastAt: null,
    }));
    return new PastContacts(contacts, rules, await recordsByNumber(database), random);
  }

  record(e164: string): RecordFacts | null {
    return this.records.get(e164) ?? null;
  }

  lease(campaignId: string, count: number, at: number): LeasedContact[] {
    const rules = this.rules.get(campaignId);
    if (rules === undefined) return [];
    const leased: LeasedContact[] = [];
    for (const contact of this.contacts.values()) {
      if (leased.length === count) break;
      if (contact.campaignId !== campaignId || contact.state !== 'due' || contact.dueAt > at) continue;
      const stretch = nextCallable(at, zoneClocks(contact.zones), rules.hours);
      if (stretch === null || stretch.from > at) continue;
      contact.state = 'leased';
      leased.push({
        contactId: contact.id,
        callId: rehearsedUuid(at, this.random),
        e164: contact.e164,
        name: contact.name,
        attempt: contact.attempts + 1,
        callableUntil: stretch.until,
        record: this.record(contact.e164),
      });
    }
    return leased;
  }

  ended(facts: CallFacts): void {
    const contact = this.contacts.get(facts.contactId ?? '');
    if (contact === undefined) return;
    const rules = this.rules.get(contact.campaignId)!;
    const result = facts.result as AttemptResult;
    const after = afterAttempt(result, facts.attempt, facts.endedAt, zoneClocks(contact.zones), rules);
    contact.attempts = facts.attempt;
    contact.state = after.state;
    contact.dueAt = after.dueAt ?? 0;
    contact.lastResult = facts.result;
    contact.lastCallId = facts.callId;
    contact.lastAt = facts.endedAt;
  }

  /** The agent asked for another try: due as after a call that was not answered. */
  again(facts: CallFacts): void {
    const contact = this.contacts.get(facts.contactId ?? '');
    if (contact === undefined || contact.lastCallId !== facts.callId) return;
    const rules = this.rules.get(contact.campaignId)!;
    const clocks = zoneClocks(contact.zones);
    const more = { ...rules, attempts: facts.attempt + 1 };
    const after = afterAttempt('noAnswer', facts.attempt, facts.endedAt, clocks, more);
    contact.state = after.state;
    contact.dueAt = after.dueAt ?? 0;
  }

  /** Whoever opted out is called by no campaign again. */
  optedOut(e164: string): void {
    for (const contact of this.contacts.values())
      if (contact.e164 === e164 && (contact.state === 'due' || contact.state === 'leased'))
        contact.state = 'optedOut';
  }

  /** Contacts as they stand now; calls that would end later than `now` did not happen. */
  async save(trx: Knex, now: number): Promise<void> {
    for (const contact of this.contacts.values()) {
      if (contact.state !== 'optedOut' && (contact.lastAt === null || contact.lastAt > now)) continue;
      const due = contact.state === 'due' || contact.state === 'leased';
      await trx('contact')
        .where({ id: contact.id })
        .update({
          state: due ? 'due' : contact.state,
          due_at: due ? new Date(contact.dueAt) : null,
          attempts: contact.attempts,
          last_result: contact.lastResult,
          last_call_id: contact.lastCallId,
          last_at: contact.lastAt === null ? null : new Date(contact.lastAt),
        });
    }
  }
}

async function recordsByNumber(database: Knex): Promise<Map<string, RecordFacts>> {
  const rows = await database('record_number as n')
    .join('record as r', 'r.id', 'n.record_id')
    .leftJoin('person as p', 'p.login', 'r.owner_login')
    .orderBy(['n.e164', 'r.id'])
    .select<{ e164: string; id: string; name: string; owner_id: string | null }[]>(
      'n.e164',
      'r.id',
      'r.name',
      'p.id as owner_id',
    );
  return new Map(rows.map((row) => [row.e164, { id: row.id, name: row.name, ownerId: row.owner_id }]));
}
