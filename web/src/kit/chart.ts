import { locale } from './locale.ts';
/** What a chart shows; how it looks follows from it (FigureChart.vue). */
export interface Series {
  title: string;
  values: readonly (number | null)[];
  /** Teal for what is wanted, oxide for what is lost, ink for what is neither. */
  tone: 'teal' | 'oxide' | 'ink2' | 'brass';
  as: 'bar' | 'line';
  /** Behind another of its tone. */
  soft?: boolean;
  /** Figures of another unit stand at the right. */
  right?: boolean;
  /** How a value is written, for the table and what is pointed at. */
  said?: (value: number) => string;
}

export interface Figures {
  /** What all of it is, in a sentence: for those who hear it, and over its table. */
  caption: string;
  /** Over the first column of the table. */
  across: string;
  labels: readonly string[];
  /** Bars stand on each other: parts of one whole. */
  stacked?: boolean;
  series: readonly Series[];
  /** A line that is not to be crossed. */
  limit?: { title: string; value: number; right?: boolean };
}

export const saidOf = ({ said }: Series, value: number | null | undefined): string =>
  value == null ? '' : (said ?? ((each: number) => each.toLocaleString(locale.value)))(value);
