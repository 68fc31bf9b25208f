import type { CompiledStep } from '../model/plan.ts';
import { freshStep, type PlanDocument } from './document.ts';
import type { KeyChoice } from '../model/plan.ts';

/** Plans to begin with: their steps and ways are there, what they name is still to be chosen. */
export interface PlanTemplate {
  key: string;
  name: string;
  /** What callers meet, in a line. */
  about: string;
  document: PlanDocument;
}

const step = (
  kind: CompiledStep['kind'],
  exits: Record<string, string> = {},
  config: object = {},
): CompiledStep => ({
  ...{ kind, exits },
  config: { ...freshStep(kind).config, ...config },
});

const menu = (labels: string[], exits: Record<string, string>, languages: string[] = []): CompiledStep => {
  const keys: KeyChoice[] = labels.map((label, i) => ({
    ...{ key: String(i + 1), label },
    ...(languages[i] === undefined ? {} : { language: languages[i] }),
  }));
  return step('keys', exits, { keys });
};

export const planTemplates: readonly PlanTemplate[] = [
  {
    key: 'dayAndNight',
    name: 'Day and night line',
    about: 'A greeting and a queue while it is open, a message when it is closed',
    document: {
      start: 's1',
      steps: {
        s1: step('hours', { open: 's2', closed: 's4' }),
        s2: step('say', { next: 's3' }),
        s3: step('queue'),
        s4: step('say', { next: 's5' }),
        s5: step('voicemail'),
      },
    },
  },
  {
    key: 'menuWithHours',
    name: 'Menu by day, message by night',
    about: 'While it is open a greeting and three keys, each to a queue; closed, a message',
    document: {
      start: 's1',
      steps: {
        s1: step('hours', { open: 's2', closed: 's7' }),
        s2: step('say', { next: 's3' }),
        s3: menu(['', '', ''], { key1: 's4', key2: 's5', key3: 's6', noKey: 's4' }),
        s4: step('queue'),
        s5: step('queue'),
        s6: step('queue'),
        s7: step('say', { next: 's8' }),
        s8: step('voicemail'),
      },
    },
  },
  {
    key: 'threeKeys',
    name: 'Three-key menu',
    about: 'A question with three keys, each to a queue; who presses nothing goes to the first',
    document: {
      start: 's1',
      steps: {
        s1: step('say', { next: 's2' }),
        s2: menu(['', '', ''], { key1: 's3', key2: 's4', key3: 's5', noKey: 's3' }),
        ...{ s3: step('queue'), s4: step('queue'), s5: step('queue') },
      },
    },
  },
  {
    key: 'reception',
    name: 'Reception with overflow',
    about: 'The desk rings, then a second person, then a queue, then a message',
    document: {
      start: 's1',
      steps: {
        s1: step('ring', { notTaken: 's2' }, { seconds: 20 }),
        s2: step('ring', { notTaken: 's3' }, { seconds: 15 }),
        s3: step('queue', { waitedTooLong: 's4' }),
        s4: step('voicemail'),
      },
    },
  },
  {
    key: 'onCall',
    name: 'On-call rota',
    about: 'Out of hours the one on call rings, then the second, then a number outside',
    document: {
      start: 's1',
      steps: {
        s1: step('hours', { open: 's2', closed: 's3' }),
        s2: step('queue'),
        s3: step('ring', { notTaken: 's4' }, { seconds: 30 }),
        s4: step('ring', { notTaken: 's5' }, { seconds: 30 }),
        s5: step('outside', { notReached: 's6' }),
        s6: step('voicemail'),
      },
    },
  },
  {
    key: 'storm',
    name: 'Storm line',
    about: 'In a storm callers hear how things stand, and may hear it again; else they wait for an agent',
    document: {
      start: 's1',
      steps: {
        s1: step('hours', { open: 's3', closed: 's4', storm: 's2' }),
        s2: step('say', { next: 's3' }, { againKey: '*' }),
        s3: step('queue'),
        s4: step('say', { next: 's5' }),
        s5: step('voicemail'),
      },
    },
  },
  {
    key: 'language',
    name: 'Language choice',
    about: 'A key for each language: prompts are heard in it from there on, and each has its own queue',
    document: {
      start: 's1',
      steps: {
        s1: menu(['English', 'Français'], { key1: 's2', key2: 's4', noKey: 's2' }, ['en', 'fr']),
        s2: step('say', { next: 's3' }),
        s3: step('queue'),
        s4: step('say', { next: 's5' }),
        s5: step('queue'),
      },
    },
  },
  {
    key: 'byRegion',
    name: 'By region',
    about: 'Callers go to the place nearest to them by how their number begins; all others to one queue',
    document: {
      start: 's1',
      steps: {
        s1: step('say', { next: 's2' }),
        s2: step('region', { otherwise: 's3', withheld: 's3' }),
        s3: step('queue', { waitedTooLong: 's4' }),
        s4: step('voicemail'),
      },
    },
  },
  {
    key: 'ownerFirst',
    name: 'Record owner first',
    about:
      'Whoever looks after the caller rings first; everybody else, and what they do not lift, goes to a queue',
    document: {
      start: 's1',
      steps: {
        s1: step('record', { known: 's2', notKnown: 's3' }),
        s2: step('owner', { notTaken: 's3' }),
        s3: step('queue', { waitedTooLong: 's4' }),
        s4: step('voicemail'),
      },
    },
  },
];
