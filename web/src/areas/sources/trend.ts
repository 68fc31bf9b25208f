import type { Figures } from '../../kit/chart.ts';
import { dayWords } from '../../kit/days.ts';
import { money } from '../../kit/money.ts';

export interface TrendStep {
  day: string;
  calls: number;
  answered: number;
  good: number;
  cost: string;
  costPerGood: string | null;
}

/** The steps of a source's trend as a chart and its table. */
export function trendFigures(steps: readonly TrendStep[], by: 'day' | 'week'): Figures {
  const total = (of: (step: TrendStep) => number) => steps.reduce((sum, step) => sum + of(step), 0);
  return {
    caption: `${total(({ calls }) => calls)} calls, ${total(({ answered }) => answered)} answered, ${total(({ good }) => good)} good.`,
    across: by === 'day' ? 'Day' : 'Week from',
    labels: steps.map(({ day }) => dayWords(day)),
    series: [
      { title: 'Calls', values: steps.map(({ calls }) => calls), tone: 'ink2', as: 'line' },
      { title: 'Answered', values: steps.map(({ answered }) => answered), tone: 'teal', as: 'line' },
      { title: 'Good', values: steps.map(({ good }) => good), tone: 'teal', as: 'bar', soft: true },
      {
        title: 'Cost of a good call',
        values: steps.map(({ costPerGood }) => (costPerGood === null ? null : Number(costPerGood))),
        tone: 'brass',
        as: 'line',
        right: true,
        said: (value) => money(value.toFixed(2)),
      },
    ],
  };
}
