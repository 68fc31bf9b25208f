import { span } from '@night-bell/core/story/span';
import { locale } from '../../kit/locale.ts';
import type { Figures } from '../../kit/chart.ts';

export interface HalfHour {
  half: number;
  calls: number;
  answered: number;
  lost: number;
  inTime: number | null;
}

/** '9:30' of 19. */
export const halfHourWords = (half: number) => `${Math.floor(half / 2)}:${half % 2 === 0 ? '00' : '30'}`;

/** '86 % within 0:20, where 80 % are aimed at': of all who called, those who gave up among them. */
export const goalWords = (inTime: number, offered: number, goal: { percent: number; seconds: number }) =>
  `${Math.round((inTime / offered) * 100)} % within ${span(goal.seconds * 1000)}, ${goal.percent} % aimed at.`;

/** Calls by half hours, from the first that had one to the last; null where none had. */
export function timesFigures(
  halves: readonly HalfHour[],
  goal: { percent: number; seconds: number } | null = null,
): Figures | null {
  if (halves.length === 0) return null;
  const [first, last] = [halves[0]!.half, halves.at(-1)!.half];
  const byHalf = new Map(halves.map((each) => [each.half, each]));
  const steps = Array.from({ length: last - first + 1 }, (_, index) => {
    const half = first + index;
    return byHalf.get(half) ?? { half, calls: 0, answered: 0, lost: 0, inTime: 0 };
  });
  const total = (of: (step: HalfHour) => number) => halves.reduce((sum, step) => sum + of(step), 0);
  const busiest = halves.reduce((most, each) => (each.calls > most.calls ? each : most));
  return {
    caption: `${total(({ calls }) => calls).toLocaleString(locale.value)} calls, ${total(({ answered }) => answered).toLocaleString(locale.value)} answered, ${total(({ lost }) => lost).toLocaleString(locale.value)} lost. Most, ${busiest.calls.toLocaleString(locale.value)}, from ${halfHourWords(busiest.half)} to ${halfHourWords(busiest.half + 1)}.${
      goal === null
        ? ''
        : ` ${goalWords(
            total(({ inTime }) => inTime ?? 0),
            total(({ calls }) => calls),
            goal,
          )}`
    }`,
    across: 'From',
    labels: steps.map(({ half }) => halfHourWords(half)),
    stacked: true,
    series: [
      { title: 'Answered', values: steps.map(({ answered }) => answered), tone: 'teal', as: 'bar' },
      {
        title: 'Otherwise over',
        values: steps.map(({ calls, answered, lost }) => calls - answered - lost),
        tone: 'ink2',
        as: 'bar',
        soft: true,
      },
      { title: 'Lost', values: steps.map(({ lost }) => lost), tone: 'oxide', as: 'bar' },
    ],
  };
}
