import type { Destination } from '../model/destination.ts';

/** Kinds of items a step can name. */
export type ItemKind =
  Exclude<Destination['kind'], 'end'> | 'hours' | 'prompt' | 'team' | 'code' | 'source' | 'region' | 'bot';
