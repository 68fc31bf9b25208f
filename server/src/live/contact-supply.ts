import type { Logger } from 'pino';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { abandonDays } from '@night-bell/core/outbound/pacing';
import { contactEnded, leaseContacts, returnContacts } from '../areas/campaigns/contacts.queries.ts';
import { tallies } from '../areas/campaigns/progress.queries.ts';
import { installation } from '../areas/session/store.ts';
import type { Database } from '../database/connection.ts';
import type { Host } from './host.ts';

/** Answers the exchange when it wants contacts to call, and puts in order what a crash left in between. */
export class ContactSupply {
  private readonly database: Database;
  private readonly logger: Logger;
  private host: Host | null = null;

  constructor(database: Database, logger: Logger) {
    this.database = database;
    this.logger = logger;
  }

  /**
   * Contacts marked as with the exchange that it knows nothing of go back; of those being called, the attempt is spent
   * and what came of it is lost. Requests without an answer are answered. Campaigns learn of the days before.
   */
  async hosting(host: Host): Promise<void> {
    this.host = host;
    const state = host.exchange.view();
    const withExchange = new Set([
      ...[...state.campaigns.values()].flatMap((campaign) => campaign.buffer.map((each) => each.contactId)),
      ...[...state.calls.values()].flatMap((call) => (call.contact === null ? [] : [call.contact.contactId])),
    ]);
    const out = await this.database('contact')
      .whereIn('state', ['leased', 'inAir'])
      .orderBy('id')
      .select<{ id: string; campaign_id: string; state: string; attempts: number }[]>(
        'id',
        'campaign_id',
        'state',
        'attempts',
      );
    const stray = out.filter((row) => !withExchange.has(row.id));
    await returnContacts(
      this.database,
      stray.filter((row) => row.state === 'leased').map((row) => row.id),
    );
    for (const row of stray.filter((each) => each.state === 'inAir'))
      await contactEnded(this.database, {
        contactId: row.id,
        campaignId: row.campaign_id,
        attempt: row.attempts,
        result: 'lost',
        at: Date.now(),
      });
    const { time_zone } = await installation(this.database);
    for (const campaign of state.campaigns.values()) {
      const { id } = campaign.item;
      if (campaign.tallies.length === 0) {
        const known = await tallies(this.database, id, time_zone, abandonDays);
        if (known.length > 0) host.submit({ kind: 'talliesKnown', campaignId: id, tallies: known });
      }
      if (campaign.asked) this.supply(id, 1);
      if (stray.length > 0) host.submit({ kind: 'contactsChanged', campaignId: id });
    }
  }

  notHosting(): void {
    this.host = null;
  }

  carryOut(effect: Effect): void {
    if (effect.kind === 'wantContacts') this.supply(effect.campaignId, effect.count);
  }

  private supply(campaignId: string, count: number): void {
    const host = this.host;
    leaseContacts(this.database, campaignId, count)
      .then(({ contacts, askAgainAt }) => {
        // A host that has ended meanwhile: the next one finds these contacts as strays.
        host?.submit({ kind: 'contactsLeased', campaignId, contacts, askAgainAt });
      })
      .catch((error: unknown) => {
        this.logger.warn({ error: String(error) }, 'contacts could not be handed out');
        host?.submit({ kind: 'contactsLeased', campaignId, contacts: [], askAgainAt: Date.now() + 5_000 });
      });
  }
}
