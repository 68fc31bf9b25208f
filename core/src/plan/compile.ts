import type { PersonItem, ServiceCodeItem } from '../model/configuration.ts';
import { type Destination, type NoAnswerStep, passingSteps } from '../model/destination.ts';
import type { CompiledPlan, CompiledStep } from '../model/plan.ts';

/** The step that sends a call to `destination`. */
export function stepTo(destination: Destination, exits: Record<string, string> = {}): CompiledStep {
  switch (destination.kind) {
    case 'person':
      return { kind: 'ring', config: { personId: destination.id, seconds: null }, exits };
    case 'queue':
      return { kind: 'queue', config: { queueId: destination.id, priority: null }, exits };
    case 'voicemail':
      return { kind: 'voicemail', config: { boxId: destination.id }, exits };
    case 'outside':
      return { kind: 'outside', config: { outsideId: destination.id }, exits };
    case 'room':
      return { kind: 'room', config: { roomId: destination.id }, exits };
    case 'ringGroup':
      return { kind: 'ringGroup', config: { groupId: destination.id }, exits };
    case 'fax':
      return { kind: 'fax', config: { boxId: destination.id }, exits };
    case 'number':
      return { kind: 'goTo', config: { numberId: destination.id }, exits };
    case 'plan':
      return { kind: 'plan', config: { planId: destination.id }, exits };
    case 'end':
      return { kind: 'end', config: {}, exits };
  }
}

const only = 'only';

/** A plan of one step. */
export function planOf(id: string, version: number, destination: Destination): CompiledPlan {
  return { id, version, start: only, steps: { [only]: stepTo(destination) }, fallback: { kind: 'end' } };
}

/** The plan by which a call goes straight to `destination`. */
export function planTo(destination: Destination): CompiledPlan {
  return planOf(`to:${destination.kind}:${destination.kind === 'end' ? '' : destination.id}`, 0, destination);
}

/** Where calls meant for them rest at last: their own voicemail, or the end for who has none. */
export function ownMailbox(person: PersonItem | undefined): Destination {
  const id = person?.voicemailBoxId ?? null;
  return id === null ? { kind: 'end' } : { kind: 'voicemail', id };
}

/**
 * What follows when nobody lifts a call meant for `person`: their steps one after the other, whoever was rung last, and
 * after the last their own voicemail. A colleague's own steps do not count, so that calls go in no circles.
 *
 * @param version of the person's settings
 */
export function planWhenNobodyLifts(person: PersonItem, version: number): CompiledPlan {
  const last = person.noAnswer.findIndex(({ kind }) => !passingSteps.includes(kind));
  const list: NoAnswerStep[] =
    last < 0 ? [...person.noAnswer, ownMailbox(person)] : person.noAnswer.slice(0, last + 1);
  const steps: Record<string, CompiledStep> = {};
  list.forEach((step, i) => {
    const next = String(i + 1);
    if (step.kind === 'otherPhones')
      steps[i] = { kind: 'otherPhones', config: { personId: person.id }, exits: { noneLeft: next } };
    else if (step.kind === 'person') steps[i] = stepTo(step, { notTaken: next });
    else steps[i] = step.kind === 'outside' ? stepTo(step, { notReached: next }) : stepTo(step);
  });
  return { id: `whenNobodyLifts:${person.id}`, version, start: '0', steps, fallback: { kind: 'end' } };
}

/** What a service code does for who dialled it. */
export function planOfCode(
  { id: codeId, does }: Pick<ServiceCodeItem, 'id' | 'does'>,
  personId: string,
): CompiledPlan {
  const steps: Record<ServiceCodeItem['does'], CompiledStep> = {
    voicemail: { kind: 'voicemailMenu', config: { boxId: '' }, exits: {} },
    storm: { kind: 'serviceCode', config: { codeId, personId }, exits: {} },
    takePart: { kind: 'takePart', config: { codeId, personId }, exits: {} },
  };
  return {
    id: `code:${codeId}`,
    version: 0,
    start: only,
    steps: { [only]: steps[does] },
    fallback: { kind: 'end' },
  };
}
