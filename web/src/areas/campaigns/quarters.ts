import type { CampaignProgress } from '../../api/client.ts';
import type { Figures } from '../../kit/chart.ts';

const quarterMs = 900_000;
const shown = 48;

/** The last twelve hours of a campaign by quarters of an hour: who answered, and the share abandoned beside its limit. */
export function quarterFigures(
  quarters: CampaignProgress['quarters'],
  limit: number,
  now: number,
  clock: (at: number) => string,
): Figures {
  const byStart = new Map(quarters.map((quarter) => [Date.parse(quarter.at), quarter]));
  const last = Math.floor(now / quarterMs) * quarterMs;
  const times = Array.from({ length: shown }, (_, index) => last - (shown - 1 - index) * quarterMs);
  const answered = times.map((at) => byStart.get(at)?.answered ?? 0);
  const abandoned = times.map((at) => byStart.get(at)?.abandoned ?? 0);
  const total = (counts: readonly number[]) => counts.reduce((sum, each) => sum + each, 0);
  return {
    caption: `${total(answered)} people answered in the last twelve hours, ${total(abandoned)} of them were abandoned.`,
    across: 'From',
    labels: times.map(clock),
    series: [
      { title: 'People who answered', values: answered, tone: 'teal', as: 'bar' },
      {
        title: 'Abandoned of them, %',
        values: answered.map((count, index) => (count === 0 ? null : (100 * abandoned[index]!) / count)),
        tone: 'oxide',
        as: 'line',
        right: true,
        said: (share) => `${share.toFixed(1)} %`,
      },
    ],
    limit: { title: `Limit ${limit} %`, value: limit, right: true },
  };
}
