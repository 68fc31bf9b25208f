import type { StepKindName } from '@night-bell/core/model/plan';

/** How the knot of a kind of step is drawn, in the list and in the picture. */
export function stepShape(kind: StepKindName): 'hitch' | 'ring' | 'coil' | 'loop' | 'knot' {
  switch (kind) {
    case 'hours':
    case 'keys':
    case 'rules':
    case 'region':
    case 'survey':
    case 'ask':
    case 'record':
    case 'customerNumber':
    case 'extension':
      return 'hitch';
    case 'ring':
    case 'ringSeveral':
    case 'ringGroup':
    case 'owner':
    case 'otherPhones':
    case 'outside':
    case 'bot':
      return 'ring';
    case 'queue':
    case 'callBack':
      return 'coil';
    case 'voicemail':
    case 'voicemailMenu':
    case 'fax':
    case 'room':
    case 'end':
      return 'loop';
    default:
      return 'knot';
  }
}
