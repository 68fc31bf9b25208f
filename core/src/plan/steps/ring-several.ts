import { mostRounds, type RingOrder, ringOrders, type RingSettings } from '../../model/ring.ts';
import { type Turn, turnFrom, turnsOf } from '../ring.ts';
import { endWhenOpen, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  targets: { type: 'ringTargets', label: 'Who is rung' },
  order: { type: 'choice', label: 'How', of: ringOrders },
  rounds: { type: 'whole', label: 'Rounds', least: 1, most: mostRounds, usual: 1 },
} as const;

type Config = Omit<RingSettings, 'order'> & { readonly order: string };

const settings = ({ targets, order }: Config) => ({ targets, order: order as RingOrder });

/** The next turn with somebody in it, until all rounds are over. A turn in which nobody can be rung is over at once. */
function ring(context: StepContext, config: Config, at: Turn): Next<Turn> {
  const now = turnFrom(turnsOf(settings(config)), config.rounds, at);
  if (now === null) return { exit: 'notTaken' };
  const { turn, round, of: targets } = now;
  const remember = { turn, round };
  const [first] = targets;
  if (first!.kind === 'outside')
    return context.has('outside', first!.id)
      ? { begin: { kind: 'dialOut', outsideId: first!.id, seconds: first!.seconds }, remember }
      : ring(context, config, { turn: turn + 1, round });
  const { rounds } = config;
  return { begin: { kind: 'ringSeveral', targets, round, rounds, groupId: null, passed: [] }, remember };
}

/** Rings several people, teams and numbers outside: at once, or one after the other, for some rounds. */
export const ringSeveral: StepKind<typeof fields, Turn> = {
  kind: 'ringSeveral',
  word: 'Ring several',
  fields,
  exits: () => [{ name: 'notTaken', label: 'nobody lifts', needed: true }],
  main: 'notTaken',
  fresh: { targets: [], order: 'allAtOnce', rounds: 1 },
  destination: () => null,
  enter: (context, config) => ring(context, config, { turn: 0, round: 1 }),
  on: {
    exit: (context, config, { turn, round }) => ring(context, config, { turn: turn + 1, round }),
  },
  whenOpen: endWhenOpen,
  describe: (config, names) => {
    const who = config.targets.map(({ kind, id, seconds }) => `${names(kind, id)} ${seconds} s`);
    const how = config.order === 'inTurn' ? 'one after the other' : 'all at once';
    const rounds = config.rounds === 1 ? '' : `, ${config.rounds} rounds`;
    return `Ring ${who.join(', ') || 'nobody yet'}, ${how}${rounds}`;
  },
};
