import type { Knex } from 'knex';
import { DateTime } from 'luxon';

/** An instant by the company's clock, as spreadsheets read it. */
export async function companyClock(
  database: Knex,
): Promise<{ zone: string; at: (iso: string | Date) => string }> {
  const { zone } = await database('installation').first<{ zone: string }>('time_zone as zone');
  return {
    zone,
    at: (iso) => DateTime.fromMillis(new Date(iso).getTime(), { zone }).toFormat('yyyy-MM-dd HH:mm:ss'),
  };
}
