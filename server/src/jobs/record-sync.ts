import type { Logger } from 'pino';
import { Crm, CrmFault } from '../areas/records/crm.ts';
import { connectionDoors, type ConnectionDoor, keepRecords } from '../areas/records/store.ts';
import type { Database } from '../database/connection.ts';
import type { Outgoing } from '../outgoing/outgoing.ts';
import type { SecretBox } from '../security/secret-box.ts';

/** A little more than was read is read again: the other side's clock and ours need not agree. */
const overlapMs = 60_000;

/** Keeps the customer records read. */
export class RecordSync {
  private readonly database: Database;
  private readonly seal: SecretBox;
  private readonly outgoing: Outgoing;
  private readonly logger: Logger;
  private working: Promise<unknown> = Promise.resolve();

  constructor(database: Database, seal: SecretBox, outgoing: Outgoing, logger: Logger) {
    this.database = database;
    this.seal = seal;
    this.outgoing = outgoing;
    this.logger = logger;
  }

  /** What is being read is read first. */
  async close(): Promise<void> {
    await this.working;
  }

  /** Reads what changed, now; one reading at a time. Gives the fault of the last connection, or null. */
  readAll(): Promise<CrmFault | null> {
    const work = this.working.then(async () => {
      let fault: CrmFault | null = null;
      for (const door of await connectionDoors(this.database, this.seal)) fault = await this.read(door);
      return fault;
    });
    this.working = work.catch((error: unknown) =>
      this.logger.warn({ error: String(error) }, 'records not read'),
    );
    return work;
  }

  private async read(door: ConnectionDoor): Promise<CrmFault | null> {
    const crm = new Crm(this.outgoing, door.address, door.key);
    const since =
      door.readUntil === null ? null : new Date(door.readUntil.getTime() - overlapMs).toISOString();
    try {
      let newest = door.readUntil?.getTime() ?? 0;
      for (let after: string | null = null; ;) {
        const { records, next } = await crm.records(since, after);
        await this.database.transaction((trx) => keepRecords(trx, door.id, records));
        for (const record of records) newest = Math.max(newest, Date.parse(record.changedAt));
        if (next === null) break;
        after = next;
      }
      await this.database('connection')
        .where({ id: door.id })
        .update({
          ok_at: this.database.fn.now(),
          fault: null,
          ...(newest > 0 ? { read_until: new Date(newest) } : {}),
        });
      return null;
    } catch (error) {
      const fault = error instanceof CrmFault ? error : new CrmFault('strange', String(error));
      await this.database('connection')
        .where({ id: door.id })
        .update({ fault: fault.detail, fault_at: this.database.fn.now() });
      return fault;
    }
  }
}
