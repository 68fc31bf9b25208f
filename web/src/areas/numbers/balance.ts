import type { Figures } from '../../kit/chart.ts';
import { dayWords } from '../../kit/days.ts';
import { money } from '../../kit/money.ts';

export interface BalanceDay {
  day: string;
  balance: string;
  paidIn: string;
  spent: string;
}

/** The balance at the end of each day, and what was spent; `low` is the line it should not fall below. */
export function balanceFigures(all: readonly BalanceDay[], low: string): Figures | null {
  // Before money moved for the first time there is nothing to see.
  const first = all.findIndex(({ balance, spent }) => Number(balance) !== 0 || Number(spent) !== 0);
  if (first < 0) return null;
  const days = all.slice(Math.max(0, first - 1));
  const said = (value: number) => money(value.toFixed(2));
  const spent = days.reduce((sum, day) => sum + Number(day.spent), 0);
  return {
    caption: `${said(spent)} spent; ${said(Number(days.at(-1)!.balance))} at the end.`,
    across: 'Day',
    labels: days.map(({ day }) => dayWords(day)),
    series: [
      {
        title: 'Balance',
        values: days.map(({ balance }) => Number(balance)),
        tone: 'teal',
        as: 'line',
        said,
      },
      { title: 'Spent', values: days.map((day) => Number(day.spent)), tone: 'brass', as: 'bar', said },
    ],
    ...(Number(low) > 0 ? { limit: { title: 'Low', value: Number(low) } } : {}),
  };
}
