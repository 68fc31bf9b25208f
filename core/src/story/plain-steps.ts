import type { StoryRecord } from './records.ts';
import { formatNumber } from '../numbers/format.ts';
import { span } from './span.ts';
import { slackWords } from './words.ts';
import type { NewStep, Of } from './step.ts';

/** The step of a record that says all of it by itself; null for records that depend on what came before. */
export function plainStep(record: StoryRecord): NewStep | null {
  switch (record.kind) {
    case 'launched':
      return launched(record);
    case 'lineDialled':
      return {
        mark: 'knot',
        at: record.at,
        title: `Dialled ${formatNumber(record.to)}`,
        reason: `Outside number of ${record.name}, over ${record.trunkName}`,
        caption: 'dialled',
      };
    case 'dialledBy':
      return {
        mark: 'knot',
        at: record.at,
        title: `${record.name} dialled ${formatNumber(record.to)}`,
        reason: '',
        caption: 'dials',
      };
    case 'contactLifted':
      return {
        mark: 'lifted',
        at: record.at,
        title: `Lifted after ${Math.round(record.rangMs / 1000)} s`,
        reason: 'Whoever lifted greets first',
        caption: 'lifted',
      };
    case 'greeted':
      return {
        mark: 'hitch',
        at: record.at,
        title: record.by === 'person' ? 'A person' : 'An answering machine',
        reason:
          record.by === 'person'
            ? `Greeting of ${seconds(record.greetingMs)}; an agent must come within ${seconds(record.withinMs)}`
            : `Greeting of ${seconds(record.greetingMs)}`,
        caption: record.by,
      };
    case 'optedOut':
      return {
        mark: 'knot',
        at: record.at,
        title: 'Opted out',
        reason:
          record.how === 'key' ? 'Pressed the key: never called again' : 'Put on the opt-out list meanwhile',
        caption: 'opted out',
      };
    case 'lineHeld':
      return {
        mark: 'sally',
        at: record.at,
        title: `${record.name} accepted`,
        reason: 'The line is held open between calls',
        caption: record.name,
      };
    case 'arrived':
      return {
        mark: 'knot',
        at: record.at,
        title: `Came in on ${formatNumber(record.to)}`,
        reason: [
          record.label,
          `from ${record.callerName ?? formatNumber(record.from)}`,
          record.record === null ? null : 'known in the records',
        ]
          .filter(Boolean)
          .join(', '),
        caption: 'comes in',
      };
    case 'unroutable':
      return {
        mark: 'knot',
        at: record.at,
        title: 'Leads nowhere',
        reason: nowhereReason(record.why),
        caption: 'nowhere',
      };
    case 'routeChosen':
      return {
        mark: 'hitch',
        at: record.at,
        title: `Goes out as ${formatNumber(record.digits)}`,
        reason: record.emergency
          ? 'A call for help: always out, as dialled, with the address'
          : record.ruleName === null
            ? 'As it stands, no dialling rule is asked'
            : `Dialling rule ${record.ruleName}`,
        caption: 'out',
      };
    case 'noRoute':
      return {
        mark: 'hitch',
        at: record.at,
        title: 'No way out',
        reason:
          record.why === 'noMatch' ? 'No dialling rule fits these digits' : 'This is nothing one can dial',
        caption: 'no way',
      };
    case 'wrongPin':
      return {
        mark: 'missed',
        at: record.at,
        title: 'Wrong PIN',
        reason: `Try ${record.tries} of 3`,
        caption: 'PIN',
      };
    case 'joinedRoom':
      return {
        mark: 'sally',
        at: record.at,
        title: `Into ${record.name}`,
        reason: record.others === 0 ? 'The first one there' : `${record.others} there already`,
        caption: record.name,
      };
    case 'faxTone':
      return {
        mark: 'hitch',
        at: record.at,
        title: record.name,
        reason: 'The fax tone answers',
        caption: 'fax',
      };
    case 'faxReceived':
      return {
        mark: 'knot',
        at: record.at,
        title: record.pages === 1 ? '1 page came in' : `${record.pages} pages came in`,
        reason: 'Kept as a file',
        caption: 'pages',
      };
    case 'enteredQueue':
      return {
        mark: 'hitch',
        at: record.at,
        title: `Queue ${record.name}`,
        reason: `${record.signedIn} signed in, ${ahead(record.ahead)}${
          record.waitedMs === undefined ? '' : `; ${span(record.waitedMs)} of waiting counts on`
        }`,
        caption: record.name,
        slack: record.otherwise.map((way) => slackWords(way.because, way.limit, way.name)),
      };
    case 'cutOff':
      return {
        ...{
          mark: 'missed',
          at: record.at,
          caption: 'cut off',
          title: `The talk with ${record.name} broke off`,
        },
        reason: `Talked ${span(record.talkedMs)}. The caller is back in their place`,
      };
    case 'transferred':
      return record.attended
        ? {
            mark: 'sally',
            at: record.at,
            title: `${record.name} put the caller through to ${record.to}`,
            reason: `Announced; ${record.name} had talked ${span(record.talkedMs)}`,
            caption: record.to,
          }
        : {
            mark: 'hitch',
            at: record.at,
            title: `${record.name} handed the caller over to ${record.to}`,
            reason: `Talked ${span(record.talkedMs)}`,
            caption: 'over',
          };
    case 'transferCancelled':
      return {
        mark: 'knot',
        at: record.at,
        title: `${record.name} has the caller back`,
        reason: {
          retrieved: 'Took them back',
          notTaken: 'The colleague did not lift',
          hungUp: 'The colleague hung up',
        }[record.why],
        caption: 'back',
      };
    case 'held':
      return {
        mark: 'knot',
        at: record.at,
        title: `${record.name} put the caller on hold`,
        reason: 'Another call was answered',
        caption: 'held',
      };
    case 'resumed':
      return {
        mark: 'knot',
        at: record.at,
        title: `${record.name} came back`,
        reason: 'The other call was over',
        caption: 'back',
      };
    case 'tooManySteps':
      return {
        mark: 'hitch',
        at: record.at,
        title: `Went in circles for ${record.steps} steps`,
        reason: 'The fallback was taken',
        caption: 'circles',
      };
    case 'voicemail':
      return {
        mark: 'hitch',
        at: record.at,
        title: record.name,
        reason: greetingWords(record),
        caption: 'voicemail',
      };
    case 'boxFull':
      return {
        mark: 'missed',
        at: record.at,
        title: `${record.name} took no message`,
        reason:
          record.why === 'storageFull'
            ? 'There is no room for recordings'
            : `It is full, with ${record.held === 1 ? '1 message' : `${record.held} messages`}`,
        caption: 'full',
      };
    case 'turnedAway':
      return {
        mark: 'knot',
        at: record.at,
        title: 'Told that nobody can take the call',
        reason: '',
        caption: 'told',
      };
    default:
      return null;
  }
}

/** 'Terminal closed is heard, then the tone: closed by Terminal hours, a caller from outside'. */
function greetingWords({ greeting, when, inside, hoursName }: Of<'voicemail'>): string {
  const heard = `${greeting ?? 'The default greeting'} is heard, then the tone`;
  if (hoursName == null) return heard;
  return `${heard}: ${when} by ${hoursName}, a caller from ${inside === true ? 'inside' : 'outside'}`;
}

function ahead(callers: number): string {
  if (callers === 0) return 'nobody ahead';
  return callers === 1 ? '1 caller ahead' : `${callers} callers ahead`;
}

function nowhereReason(why: Of<'unroutable'>['why']): string {
  switch (why) {
    case 'unknownNumber':
      return 'This number is not one of ours';
    case 'unroutedNumber':
      return 'This number has no destination';
    case 'destinationGone':
      return 'Its destination was deactivated';
  }
}

export function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}

function launched(record: Of<'launched'>): NewStep {
  const { pace, free, inAir, reservedName } = record;
  const allowed =
    reservedName === null
      ? `${free} free, ${inAir} in the air: ${pace.ratio} for each`
      : `${reservedName} is kept for it${pace.why === 'atLimit' ? ', at the abandon limit' : ''}`;
  return {
    mark: 'knot',
    at: record.at,
    title: `Dialled ${formatNumber(record.to)}`,
    reason: `${record.campaignName}, attempt ${record.attempt}, over ${record.trunkName}, shown ${formatNumber(record.callerId)}. ${allowed}`,
    caption: 'dialled',
  };
}
