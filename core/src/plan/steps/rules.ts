import { type Rule, ruleFor, ruleWords } from '../rules.ts';
import { endWhenOpen, type StepKind } from '../step-kind.ts';

const fields = { rules: { type: 'rules', label: 'Rules' } } as const;

/** The exit of a rule, which stays its own when rules are put into another order. */
export const exitOfRule = ({ id }: Pick<Rule, 'id'>) => `rule_${id}`;
const nameOf = ({ name }: Rule, index: number) => (name.trim() === '' ? `rule ${index + 1}` : name.trim());

/** Goes by the first rule that holds; who meets none goes the other way. */
export const rules: StepKind<typeof fields, never> = {
  kind: 'rules',
  word: 'Rules',
  fields,
  exits: (config) => [
    { name: 'otherwise', label: 'none of them', needed: true },
    ...config.rules.map((rule, index) => ({
      name: exitOfRule(rule),
      label: nameOf(rule, index),
      needed: true as const,
    })),
  ],
  main: 'otherwise',
  fresh: { rules: [] },
  destination: () => null,
  enter: (context, config) => {
    const rule = ruleFor(config.rules, context.facts()) ?? null;
    const index = rule === null ? -1 : config.rules.indexOf(rule);
    context.note({
      kind: 'rulesAsked',
      rule: rule === null ? null : nameOf(rule, index),
      because: rule === null ? '' : ruleWords(rule, (kind, id) => context.nameOfItem(kind, id)),
      others: config.rules.flatMap((each, place) =>
        place > index && index >= 0 ? [nameOf(each, place)] : [],
      ),
      passed: rule === null ? config.rules.length : index,
    });
    return { exit: rule === null ? 'otherwise' : exitOfRule(rule) };
  },
  whenOpen: endWhenOpen,
  describe: (config, names) =>
    config.rules.length === 0
      ? 'Ask no rule yet'
      : `Ask in turn: ${config.rules.map((rule, index) => `${nameOf(rule, index)}, when ${ruleWords(rule, names)}`).join('; ')}`,
};
