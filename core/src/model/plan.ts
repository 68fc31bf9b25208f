import type { Destination } from './destination.ts';

/**
 * What happens to a caller, compiled: steps that are left by exits. Immutable and plain data; a call pins the one it
 * began with. An exit that leads to no step is open: what follows then is said by its step's kind, or by what was left.
 */
export interface CompiledPlan {
  id: string;
  version: number;
  /** The first step. */
  start: string;
  steps: Readonly<Record<string, CompiledStep>>;
  /** Where the call goes when the plan runs in circles. */
  fallback: Destination;
}

/** An answering plan as it is published. */
export interface PlanItem extends CompiledPlan {
  name: string;
}

/** `config` is checked by its kind's fields; `exits` names the step each exit leads to. */
export interface CompiledStep {
  kind: StepKindName;
  config: Readonly<Record<string, unknown>>;
  exits: Readonly<Record<string, string>>;
}

export type StepKindName =
  | 'say'
  | 'keys'
  | 'rules'
  | 'region'
  | 'textBack'
  | 'afterTalk'
  | 'survey'
  | 'recording'
  | 'whenLeft'
  | 'ask'
  | 'bot'
  | 'voicemailMenu'
  | 'record'
  | 'owner'
  | 'customerNumber'
  | 'hours'
  | 'extension'
  | 'optOut'
  | 'ring'
  | 'ringSeveral'
  | 'ringGroup'
  | 'otherPhones'
  | 'queue'
  | 'callBack'
  | 'voicemail'
  | 'outside'
  | 'room'
  | 'fax'
  | 'goTo'
  | 'plan'
  | 'comeBack'
  | 'serviceCode'
  | 'takePart'
  | 'end';

/** A key a caller may press, and what for: '2', 'freight'. */
export interface KeyChoice {
  readonly key: string;
  readonly label: string;
  /** Whoever presses it hears prompts in this language from then on, where they have it (BCP 47, as 'fr-CA'). */
  readonly language?: string | null;
}
